import { Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { FolderCheck } from "../api/schema";
import { size } from "./words";

/** How fit a folder is for copies: its room and disk, what is wrong, what to think about. */
export function Fitness({ check, children }: { check: FolderCheck; children?: ReactNode }) {
  return (
    <>
      <Text>
        {check.exists ? "It exists" : "It will be made"}, {size(check.free)} free, {check.disk}.
        {children}
      </Text>
      {check.faults.map((f) => (
        <Text key={f} color="loss">
          ✕ {f}
        </Text>
      ))}
      {check.cautions.map((c) => (
        <Text key={c} color="caution">
          ▲ {c}
        </Text>
      ))}
    </>
  );
}
