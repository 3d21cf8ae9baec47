import type { Plan as PlanRecord } from "../api/schema";
import { duration, minutes, seconds } from "../shared/words";
import { Number, Setting, Tick, Words } from "../shared/fields";
import { phrase } from "../words/phrase";

/** What belongs to each step of a run. */
export function Steps({
  plan,
  set,
}: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  return (
    <Setting name={phrase("plan.stepsOfRuns")} under={phrase("plan.theNewestWholeStepAndThe")}>
      <Tick
        label={phrase("plan.theSetUpWithEachStep")}
        on={plan.runs.setupEachTime}
        onChange={(setupEachTime) => set({ runs: { ...plan.runs, setupEachTime } })}
      />
    </Setting>
  );
}

export function When({
  plan,
  set,
}: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  return (
    <>
      <Setting name={phrase("plan.wait")} under={phrase("plan.aBackupInTheMiddleOf")}>
        {phrase("plan.sOfQuietMinAtMost", {
          number: (
            <Number
              label={phrase("plan.secondsOfQuiet")}
              value={seconds(plan.quiet)}
              min={2}
              max={3600}
              onChange={(s) => set({ quiet: duration(s) })}
            />
          ),
          number2: (
            <Number
              label={phrase("plan.minutesToWaitAtMost")}
              value={minutes(plan.hardLimit)}
              min={0}
              max={240}
              step={0.5}
              onChange={(m) => set({ hardLimit: duration(Math.round(m * 60)) })}
            />
          ),
        })}
      </Setting>
      <Setting name={phrase("plan.notByItself")} under={phrase("plan.onlyWhatYouBackUpBy")}>
        {phrase("plan.filesEndingIn", {
          words: (
            <Words
              label={phrase("plan.endingsWithoutTimedCopies")}
              value={plan.kindsOff.join(" ")}
              placeholder={phrase("plan.noneSet")}
              onChange={(text) => set({ kindsOff: text.split(/[ ,.]+/).filter(Boolean) })}
            />
          ),
        })}
      </Setting>
      <Setting name={phrase("plan.acceptedLoss")} under={phrase("plan.youAreWarnedWhereThePlan")}>
        {phrase("plan.minOfWork", {
          number: (
            <Number
              label={phrase("plan.minutesAcceptedToLose")}
              value={minutes(plan.accepted)}
              min={1}
              max={10080}
              onChange={(m) => set({ accepted: duration(Math.round(m * 60)) })}
            />
          ),
        })}
      </Setting>
    </>
  );
}
