import { Box, Flex } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import type {
  Counts,
  Pauses as HandsOffRecord,
  Plan as PlanRecord,
  Light,
  RunCounts,
} from "../api/schema";
import { Notice, Quiet } from "../shared/parts";
import { duration, seconds } from "../shared/words";
import { Number, Setting, Tick, Words } from "../shared/fields";

const DAY = 86_400;
const GB = 1e9;

function Keep({ counts, set }: { counts: Counts; set: (changes: Partial<Counts>) => void }) {
  const spans = [
    { key: "hourly", label: "Days of hourly copies", each: "hour", unit: "days", length: DAY },
    { key: "daily", label: "Days of daily copies", each: "day", unit: "days", length: DAY },
    {
      key: "weekly",
      label: "Weeks of weekly copies",
      each: "week",
      unit: "weeks",
      length: 7 * DAY,
    },
  ] as const;
  return (
    <Setting
      name="Keep"
      under="pinned, noted and secured copies and the newest intact one always stay; the first after a crash while there is room"
    >
      <Row>
        <Number
          label="Newest copies to keep"
          value={counts.newest}
          min={0}
          max={100000}
          onChange={(n) => set({ newest: Math.round(n) })}
        />
        newest, and also
      </Row>
      {spans.map((s) => (
        <Row key={s.key}>
          the first of each {s.each} for
          <Number
            label={s.label}
            value={seconds(counts[s.key]) / s.length}
            min={0}
            max={Math.floor((3650 * DAY) / s.length)}
            onChange={(n) => set({ [s.key]: duration(Math.round(n * s.length)) })}
          />
          {s.unit}
        </Row>
      ))}
      <Row>
        a thinning ring of
        <Number
          label="Slots of the ring"
          value={counts.ring}
          min={0}
          max={40}
          onChange={(n) => set({ ring: Math.round(n) })}
        />
        slots: every 2nd, 4th, 8th …
      </Row>
      <Row>
        in at most
        <Number
          label="Gigabytes for one document"
          value={counts.room / GB}
          min={0}
          max={1_000_000}
          step={0.5}
          onChange={(n) => set({ room: Math.round(n * GB) })}
        />
        GB for one document (0: no limit)
      </Row>
    </Setting>
  );
}

function Row({ children }: { children: ReactNode }) {
  return (
    <Flex w="100%" align="center" gap="1.5" wrap="wrap">
      {children}
    </Flex>
  );
}

function HandsOff({ plan, set }: { plan: HandsOffRecord; set: (changed: HandsOffRecord) => void }) {
  const change = (changes: Partial<HandsOffRecord>) => set({ ...plan, ...changes });
  return (
    <Setting
      name="Hands off"
      under="then Kavrin neither reads nor copies; what was due is made up for afterwards"
    >
      <Row>
        while a process called
        <Words
          label="Process that keeps Kavrin away"
          value={plan.process}
          placeholder="none"
          onChange={(process) => change({ process })}
        />
        runs
      </Row>
      <Row>
        while a file called
        <Words
          label="File that keeps Kavrin away"
          value={plan.file}
          placeholder="none"
          onChange={(file) => change({ file })}
        />
        stands
      </Row>
      <Row>
        <Tick
          label="while the document grows"
          on={plan.growing}
          onChange={(growing) => change({ growing })}
        />
      </Row>
      <Row>
        for
        <Number
          label="Minutes of hands-off at most"
          value={seconds(plan.limit) / 60}
          min={0}
          max={10080}
          onChange={(m) => change({ limit: duration(Math.round(m * 60)) })}
        />
        min at most (0: no limit)
      </Row>
    </Setting>
  );
}

/** What timed copies leave out; every so many-th is full all the same. */
function LightCopies({ light, set }: { light: Light; set: (changed: Light) => void }) {
  const change = (changes: Partial<Light>) => set({ ...light, ...changes });
  const on = light.pictures || light.entries.length > 0;
  return (
    <Setting
      name="Leave out"
      under="of timed copies; what is left out is in the record, and a light copy never counts as the safe one"
    >
      <Row>
        <Tick
          label="embedded pictures of models"
          on={light.pictures}
          onChange={(pictures) => change({ pictures })}
        />
      </Row>
      <Row>
        of archives, entries called
        <Words
          label="Archive entries to leave out"
          value={light.entries.join(" ")}
          placeholder="none"
          onChange={(text) => change({ entries: text.split(/ +/).filter(Boolean) })}
        />
      </Row>
      {on && (
        <Row>
          every
          <Number
            label="Every so many-th copy full"
            value={light.fullEvery}
            min={2}
            max={10000}
            onChange={(n) => change({ fullEvery: Math.round(n) })}
          />
          th copy is full all the same
        </Row>
      )}
    </Setting>
  );
}

/** Steps of runs: when they are copied, and how many of each kind of file stay. */
function Steps({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
  const { runs } = plan;
  const change = (changes: Partial<RunCounts>) => set({ runs: { ...runs, ...changes } });
  return (
    <Setting
      name="Steps of runs"
      under="the newest whole step and the last before a run diverged always stay; reruns count as new runs"
    >
      <Row>
        every
        <Number
          label="Steps between copies"
          value={plan.everySteps}
          min={0}
          max={1_000_000}
          onChange={(n) => set({ everySteps: Math.round(n) })}
        />
        steps, as soon as it is there (0: never)
      </Row>
      <Row>
        keep the last
        <Number
          label="Restart files to keep"
          value={runs.restarts}
          min={0}
          max={100000}
          onChange={(n) => change({ restarts: Math.round(n) })}
        />
        restart files
      </Row>
      <Row>
        the result of every
        <Number
          label="Steps between kept results"
          value={runs.everyResult}
          min={0}
          max={100000}
          onChange={(n) => change({ everyResult: Math.round(n) })}
        />
        steps, for good (0: none)
      </Row>
      <Row>
        <Tick
          label="the set-up with each step, changed or not"
          on={runs.setupEachTime}
          onChange={(setupEachTime) => change({ setupEachTime })}
        />
      </Row>
    </Setting>
  );
}

/** A nudge for programs that never save by themselves; switching it off asks once. */
function Remind(props: {
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
      name="Remind me"
      under={
        now === 0
          ? "for programs that never save by themselves; only while the program runs"
          : "only while the program runs, at a moment when nothing is written; can be put off"
      }
    >
      <Row>
        <Number
          label="Minutes without a save before a reminder"
          value={now}
          min={0}
          max={1440}
          onChange={change}
        />
        min after the last save (0: never)
        {now === 0 && <Quiet onClick={() => change(proposed)}>{proposed} min</Quiet>}
      </Row>
      {asked && (
        <Notice tone="caution">
          Without it nothing tells you that work is unsaved: a crash then takes all of it since your
          last save. <Quiet onClick={() => decide(true)}>Switch it off all the same</Quiet>{" "}
          <Quiet onClick={() => decide(false)}>Leave it on</Quiet>
        </Notice>
      )}
    </Setting>
  );
}

/** When copies are made, when not, and how many stay. */
export function Form({
  set,
  plan,
  runs,
  reminder,
  children,
}: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
  runs: boolean;
  /** What to propose for it. */
  reminder: string | undefined;
  children?: ReactNode;
}) {
  const minutes = (iso: string) => seconds(iso) / 60;
  const days = (iso: string) => Math.round(seconds(iso) / DAY);
  return (
    <Box>
      <Setting
        name="Copy"
        under="never over the live file; nothing is written when nothing changed"
      >
        <Number
          label="Minutes after a change"
          value={minutes(plan.interval)}
          min={0}
          max={10080}
          step={0.5}
          onChange={(m) => set({ interval: duration(Math.round(m * 60)) })}
        />
        min after a change
        <Tick
          label="and on every save"
          on={plan.everySave}
          onChange={(everySave) => set({ everySave })}
        />
      </Setting>
      <Setting name="But not" under="only what you copy by hand, then">
        files ending in
        <Words
          label="Endings without timed copies"
          value={plan.kindsOff.join(" ")}
          placeholder="none"
          onChange={(text) => set({ kindsOff: text.split(/[ ,.]+/).filter(Boolean) })}
        />
      </Setting>
      <Setting name="Ask me" under="what went is kept until you answer, or the days are over">
        when a save takes away
        <Number
          label="Share of the parts, in per cent; 0 for never"
          value={plan.loss.percent}
          min={0}
          max={100}
          onChange={(percent) => set({ loss: { ...plan.loss, percent } })}
        />
        % of the parts or a layer of
        <Number
          label="Entities a layer must have had"
          value={plan.loss.entities}
          min={1}
          max={1000000}
          onChange={(entities) => set({ loss: { ...plan.loss, entities } })}
        />
        things; wait
        <Number
          label="Days the state before is kept"
          value={plan.loss.days}
          min={1}
          max={365}
          onChange={(days) => set({ loss: { ...plan.loss, days } })}
        />
        days
      </Setting>
      <Setting name="Wait" under="a copy in the middle of a write would be no copy">
        <Number
          label="Seconds of quiet"
          value={seconds(plan.quiet)}
          min={2}
          max={3600}
          onChange={(s) => set({ quiet: duration(s) })}
        />
        s of quiet,
        <Number
          label="Minutes to wait at most"
          value={minutes(plan.hardLimit)}
          min={0}
          max={240}
          step={0.5}
          onChange={(m) => set({ hardLimit: duration(Math.round(m * 60)) })}
        />
        min at most
      </Setting>
      <Setting name="I accept to lose">
        <Number
          label="Minutes accepted to lose"
          value={minutes(plan.accepted)}
          min={1}
          max={10080}
          onChange={(m) => set({ accepted: duration(Math.round(m * 60)) })}
        />
        min of work
      </Setting>
      <Setting
        name="Prove it"
        under="0 for never; unattended, each newest copy is restored aside and read whole"
      >
        ask me after
        <Number
          label="Days after which a rehearsal is asked for"
          value={days(plan.proving.askAfter)}
          min={0}
          max={366}
          onChange={(d) => set({ proving: { ...plan.proving, askAfter: duration(d * DAY) } })}
        />
        days; unattended every
        <Number
          label="Days between unattended proofs"
          value={days(plan.proving.unattended)}
          min={0}
          max={366}
          onChange={(d) => set({ proving: { ...plan.proving, unattended: duration(d * DAY) } })}
        />
        days
      </Setting>
      {!runs && <Remind plan={plan} set={set} proposed={reminder} />}
      {runs && <Steps plan={plan} set={set} />}
      {runs && children}
      <Keep counts={plan.keep} set={(changes) => set({ keep: { ...plan.keep, ...changes } })} />
      <HandsOff plan={plan.handsOff} set={(handsOff) => set({ handsOff })} />
      <LightCopies light={plan.light} set={(light) => set({ light })} />
      {!runs && children}
    </Box>
  );
}
