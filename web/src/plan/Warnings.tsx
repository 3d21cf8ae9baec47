import { Flex } from "@chakra-ui/react";
import type { PlanAnswer } from "../api/schema";
import { Notice } from "../shared/parts";
import { count, size } from "../shared/words";
import { phrase } from "../words/phrase";

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
          {phrase("plan.applyingThisMovesToTheBin", {
            backups: count(drops, "backup"),
            size: size(answer.dropBytes),
            drops,
          })}
        </Notice>
      )}
    </Flex>
  );
}
