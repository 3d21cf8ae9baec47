import { Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { FolderCheck } from "../api/schema";
import { size } from "./words";

/** How fit a folder is for copies: its room and disk, what is wrong, what to think about. */
export function Fitness(props: {
  check: FolderCheck;
  /** Room and disk are said already. */
  brief?: boolean | undefined;
  children?: ReactNode;
}) {
  const { check } = props;
  return (
    <>
      {!props.brief && (
        <Text>
          {check.exists ? "It exists" : "It will be made"}, {size(check.free)} free, {check.disk}.
          {props.children}
        </Text>
      )}
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
