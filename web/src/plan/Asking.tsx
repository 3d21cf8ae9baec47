import { useState } from "react";
import type { Plan as PlanRecord } from "../api/schema";
import { Notice, Quiet } from "../shared/parts";
import { days, duration, seconds } from "../shared/words";
import { Number, Setting } from "../shared/fields";
import { phrase } from "../words/phrase";
import { Row } from "./Row";

const DAY = 86_400;

/** A nudge for programs that never save by themselves; switching it off asks once. */
export function Remind(props: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
  proposed: string | undefined;
}) {
  const { plan, set } = props;
  const [asked, setAsked] = useState(false);
  const now = seconds(plan.reminder) / 60;
  const proposed = seconds(props.proposed ?? plan.accepted) / 60;
  const change = (minutes: number) => {
    if (minutes === 0 && now > 0) setAsked(true);
    else set({ reminder: duration(Math.round(minutes * 60)) });
  };
  const decide = (off: boolean) => {
    setAsked(false);
    if (off) set({ reminder: duration(0) });
  };
  return (
    <Setting
      name={phrase("plan.remindMe")}
      under={
        now === 0
          ? phrase("plan.forProgramsThatNeverSaveBy")
          : phrase("plan.onlyWhileTheProgramRunsAt")
      }
    >
      <Row>
        {phrase("plan.minAfterTheLastSave0", {
          number: (
            <Number
              label={phrase("plan.minutesWithoutASaveBeforeA")}
              value={now}
              min={0}
              max={1440}
              onChange={change}
            />
          ),
        })}
        {now === 0 && (
          <Quiet onClick={() => change(proposed)}>{phrase("plan.min2", { proposed })}</Quiet>
        )}
      </Row>
      {asked && (
        <Notice tone="caution">
          {phrase("plan.withoutItNothingTellsYouThat", {
            b: (text) => <Quiet onClick={() => decide(true)}>{text}</Quiet>,
            b2: (text) => <Quiet onClick={() => decide(false)}>{text}</Quiet>,
          })}
        </Notice>
      )}
    </Setting>
  );
}

export function Questions({
  plan,
  set,
}: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  return (
    <Setting name={phrase("plan.askMe")} under={phrase("plan.whatWentIsKeptUntilYou")}>
      {phrase("plan.whenASaveTakesAwayOf", {
        number: (
          <Number
            label={phrase("plan.shareOfThePartsInPer")}
            value={plan.loss.percent}
            min={0}
            max={100}
            onChange={(percent) => set({ loss: { ...plan.loss, percent } })}
          />
        ),
        number2: (
          <Number
            label={phrase("plan.entitiesALayerMustHaveHad")}
            value={plan.loss.entities}
            min={1}
            max={1000000}
            onChange={(entities) => set({ loss: { ...plan.loss, entities } })}
          />
        ),
        number3: (
          <Number
            label={phrase("plan.daysTheVersionBeforeIsKept")}
            value={plan.loss.days}
            min={1}
            max={365}
            onChange={(d) => set({ loss: { ...plan.loss, days: d } })}
          />
        ),
      })}
    </Setting>
  );
}

export function Tests({
  plan,
  set,
}: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  return (
    <Setting
      name={phrase("plan.recoveryTests")}
      under={phrase("plan.0ForNeverUnattendedEachNewest")}
    >
      {phrase("plan.askMeAfterDaysUnattendedEvery", {
        number: (
          <Number
            label={phrase("plan.daysAfterWhichARecoveryTest")}
            value={days(plan.proving.askAfter)}
            min={0}
            max={366}
            onChange={(d) => set({ proving: { ...plan.proving, askAfter: duration(d * DAY) } })}
          />
        ),
        number2: (
          <Number
            label={phrase("plan.daysBetweenUnattendedTests")}
            value={days(plan.proving.unattended)}
            min={0}
            max={366}
            onChange={(d) => set({ proving: { ...plan.proving, unattended: duration(d * DAY) } })}
          />
        ),
      })}
    </Setting>
  );
}
