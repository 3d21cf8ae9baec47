import { configure } from "@testing-library/react";

// A machine whose cores are busy with other things takes its time.
configure({ asyncUtilTimeout: 20_000 });
