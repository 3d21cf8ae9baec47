import { Text } from "@chakra-ui/react";
import type { VersionsView } from "../api/schema";
import { useStopAwaiting } from "../api/queries";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/dates";
import { age, count } from "../shared/words";
import { phrase } from "../words/phrase";

type Run = NonNullable<NonNullable<VersionsView["live"]>["run"]>;

/** Where a run stands and from where copies could go on, in steps and computing time. */
export function runWords(run: Run): string {
  const at = phrase("versions.runIsAtStep", { run: run.run, step: run.step });
  if (run.heldStep === undefined || run.heldWritten === undefined)
    return phrase("versions.noBackupToGoOnFrom", { at });
  if (run.heldRun === run.run && run.heldStep === run.step)
    return phrase("versions.andBackupsCouldGoOnFrom", { at });
  const computing = new Date(run.written).getTime() - new Date(run.heldWritten).getTime();
  return run.heldRun === run.run
    ? phrase("versions.backupsCouldGoOnFromStep", {
        at,
        heldStep: run.heldStep,
        steps: count(run.step - run.heldStep, "step"),
        age: age(computing),
      })
    : phrase("versions.backupsCouldGoOnFromStep2", {
        at,
        heldStep: run.heldStep,
        heldRun: run.heldRun,
      });
}

/** Why a live file has no newer copy: held on purpose, waited for, or in trouble. */
export function HowItStands(props: {
  document: string;
  live: VersionsView["live"];
  now: number;
  zone: string;
}) {
  const stop = useStopAwaiting();
  const { live, now, zone } = props;
  if (!live) return null;
  return (
    <>
      {live.run && (
        <Text color="muted" fontWeight="400" fontSize="12px">
          {runWords(live.run)}
        </Text>
      )}
      {live.run?.told.map((words) => (
        <Text key={words} color="caution" fontWeight="400" fontSize="12px">
          {phrase("versions.step", { step: live.run?.step, words })}
        </Text>
      ))}
      {live.awaited && (
        <Text fontWeight="400" fontSize="12px">
          {phrase("versions.theNextSaveIsBackedUp", {
            b: (text) => (
              <Quiet needs="RESTORE" onClick={() => stop.mutate(props.document)}>
                {text}
              </Quiet>
            ),
          })}
        </Text>
      )}
      {live.heldBy && (
        <Text color="caution" fontWeight="400" fontSize="12px">
          {phrase("versions.pausedOnPurposeSinceNoBackup", {
            moment: moment(live.heldSince ?? now, zone, now),
            heldBy: live.heldBy,
            backup: live.pendingSince
              ? ` ${phrase("versions.theChangeOf", { moment: moment(live.pendingSince, zone, now) })}`
              : "",
          })}
        </Text>
      )}
      {live.problem && (
        <Text color="caution" fontWeight="400" fontSize="12px">
          {live.problem}
        </Text>
      )}
    </>
  );
}
