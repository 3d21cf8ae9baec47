import { Flex } from "@chakra-ui/react";
import type { PlanAnswer } from "../api/schema";
import { Notice } from "../shared/parts";
import { count, size } from "../shared/words";

/** What to hear before choosing a plan. */
export function Warnings({ answer, dirty }: { answer: PlanAnswer; dirty: boolean }) {
  const drops = dirty ? answer.drops : 0;
  const warnings = answer.run?.warnings ?? answer.figures.warnings;
  if (warnings.length === 0 && drops === 0) return null;
  return (
    <Flex direction="column" gap="2" my="3">
      {warnings.map((w) => (
        <Notice key={w} tone={w.startsWith("Zero") || w.startsWith("No ") ? "loss" : "caution"}>
          {w}
        </Notice>
      ))}
      {drops > 0 && (
        <Notice tone="caution">
          Applying this moves {count(drops, "backup")} ({size(answer.dropBytes)}) to the bin.{" "}
          {drops === 1 ? "It" : "They"} can be restored from there for 14 days, or until the room is
          needed.
        </Notice>
      )}
    </Flex>
  );
}
