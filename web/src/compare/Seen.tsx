import type { ComparisonView } from "../api/schema";
import { Listing } from "./Listing";
import { Maps } from "./Maps";
import { Overlay } from "./Overlay";
import { Photos } from "./Photos";
import { Sheets } from "./Sheets";

/** What differs, to be seen: each kind in its own way. */
export function Seen(props: {
  comparison: ComparisonView;
  chosen: string | undefined;
  onChoose: (part: string | undefined) => void;
}) {
  const { comparison, chosen } = props;
  switch (comparison.shows) {
    case "MODEL":
      return <Overlay comparison={comparison} chosen={chosen} onChoose={props.onChoose} />;
    case "DRAWING":
      return <Sheets comparison={comparison} chosen={chosen} />;
    case "FIELD":
      return <Maps comparison={comparison} />;
    case "PICTURE":
      return <Photos comparison={comparison} />;
    default:
      return <Listing comparison={comparison} chosen={chosen} onChoose={props.onChoose} />;
  }
}
