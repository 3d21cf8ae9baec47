import { Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { FolderCheck } from "../api/schema";
import { size } from "./words";
import { phrase } from "../words/phrase";

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
          {phrase("shared.free", {
            state: check.exists ? phrase("shared.itExists") : phrase("shared.itWillBeMade"),
            size: size(check.free),
            disk: check.disk,
            more: props.children,
          })}
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
