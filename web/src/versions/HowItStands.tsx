import { Text } from "@chakra-ui/react";
import type { VersionsView } from "../api/schema";
import { useStopAwaiting } from "../api/queries";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/dates";
import { age, count } from "../shared/words";

type Run = NonNullable<NonNullable<VersionsView["live"]>["run"]>;

/** Where a run stands and from where copies could go on, in steps and computing time. */
export function runWords(run: Run): string {
  const at = `Run ${run.run} is at step ${run.step}`;
  if (run.heldStep === undefined || run.heldWritten === undefined)
    return `${at}; no backup to go on from yet.`;
  if (run.heldRun === run.run && run.heldStep === run.step)
    return `${at}, and backups could go on from there.`;
  const computing = new Date(run.written).getTime() - new Date(run.heldWritten).getTime();
  return run.heldRun === run.run
    ? `${at}; backups could go on from step ${run.heldStep}: ${count(run.step - run.heldStep, "step")}, ${age(computing)} of computing, would be lost.`
    : `${at}; backups could go on from step ${run.heldStep} of run ${run.heldRun}.`;
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
          Step {live.run?.step}: {words}
        </Text>
      ))}
      {live.awaited && (
        <Text fontWeight="400" fontSize="12px">
          The next save is backed up at once. Save in the program.{" "}
          <Quiet needs="RESTORE" onClick={() => stop.mutate(props.document)}>
            stop waiting
          </Quiet>
        </Text>
      )}
      {live.heldBy && (
        <Text color="caution" fontWeight="400" fontSize="12px">
          Paused on purpose since {moment(live.heldSince ?? now, zone, now)}: {live.heldBy}. No
          backup since
          {live.pendingSince ? ` the change of ${moment(live.pendingSince, zone, now)}` : ""}.
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
