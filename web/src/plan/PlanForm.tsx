import { Accordion, Flex, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import type {
  Counts,
  Pauses as HandsOffRecord,
  Plan as PlanRecord,
  PlanAnswer,
  Light,
} from "../api/schema";
import { type CompactingProposal, useCompacting } from "../api/compacting";
import { Notice, Quiet } from "../shared/parts";
import { duration, seconds } from "../shared/words";
import { Number, Setting, Tick, Words } from "../shared/fields";
import { Autosaves, autosaveWords } from "./Autosaves";
import { compactingWords, OlderVersions } from "./OlderVersions";

const DAY = 86_400;
const GB = 1e9;

function Keep({
  counts,
  set,
  room,
  setRoom,
}: {
  counts: Counts;
  set: (changes: Partial<Counts>) => void;
  /** Bytes for the whole project. */
  room: number;
  setRoom: (bytes: number) => void;
}) {
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
      name="Besides the newest"
      under="pinned, noted and secured backups and the newest intact one always stay; the first after a crash while there is room"
    >
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
        all in at most
        <Number
          label="Gigabytes for one document"
          value={counts.room / GB}
          min={0}
          max={1_000_000}
          step={0.5}
          onChange={(n) => set({ room: Math.round(n * GB) })}
        />
        GB for one document, the bin included (0: no limit)
      </Row>
      <Row>
        all documents of the project in at most
        <Number
          label="Gigabytes for the project"
          value={room / GB}
          min={0}
          max={1_000_000}
          step={0.5}
          onChange={(n) => setRoom(Math.round(n * GB))}
        />
        GB in each backup folder, the bin included (0: no limit)
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
      name="Pause while"
      under="then Kavrin neither reads nor writes; what was due is made up for afterwards"
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
          label="Minutes of a pause at most"
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
      under="of timed backups; what is left out is in the record, and a light backup never counts as the safe one"
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
          th backup is full all the same
        </Row>
      )}
    </Setting>
  );
}

/** What belongs to each step of a run. */
function Steps({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
  return (
    <Setting
      name="Steps of runs"
      under="the newest whole step and the last before a run diverged always stay; reruns count as new runs"
    >
      <Tick
        label="the set-up with each step, changed or not"
        on={plan.runs.setupEachTime}
        onChange={(setupEachTime) => set({ runs: { ...plan.runs, setupEachTime } })}
      />
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

function When({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
  return (
    <>
      <Setting name="Wait" under="a backup in the middle of a write would be none">
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
      <Setting name="Not by itself" under="only what you back up by hand, then">
        files ending in
        <Words
          label="Endings without timed copies"
          value={plan.kindsOff.join(" ")}
          placeholder="none"
          onChange={(text) => set({ kindsOff: text.split(/[ ,.]+/).filter(Boolean) })}
        />
      </Setting>
      <Setting name="Accepted loss" under="you are warned where the plan may lose more">
        <Number
          label="Minutes accepted to lose"
          value={minutes(plan.accepted)}
          min={1}
          max={10080}
          onChange={(m) => set({ accepted: duration(Math.round(m * 60)) })}
        />
        min of work
      </Setting>
    </>
  );
}

function Questions({
  plan,
  set,
}: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  return (
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
        label="Days the version before is kept"
        value={plan.loss.days}
        min={1}
        max={365}
        onChange={(d) => set({ loss: { ...plan.loss, days: d } })}
      />
      days
    </Setting>
  );
}

function Tests({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
  return (
    <Setting
      name="Recovery tests"
      under="0 for never; unattended, each newest backup is restored aside and read whole"
    >
      ask me after
      <Number
        label="Days after which a recovery test is asked for"
        value={days(plan.proving.askAfter)}
        min={0}
        max={366}
        onChange={(d) => set({ proving: { ...plan.proving, askAfter: duration(d * DAY) } })}
      />
      days; unattended every
      <Number
        label="Days between unattended tests"
        value={days(plan.proving.unattended)}
        min={0}
        max={366}
        onChange={(d) => set({ proving: { ...plan.proving, unattended: duration(d * DAY) } })}
      />
      days
    </Setting>
  );
}

const minutes = (iso: string) => seconds(iso) / 60;
const days = (iso: string) => Math.round(seconds(iso) / DAY);
const orNever = (n: number, unit: string) => (n === 0 ? "never" : `${n} ${unit}`);

/** What a closed section says. */
function summaries(plan: PlanRecord, proposed: CompactingProposal | undefined) {
  const pauses = [
    plan.handsOff.process && `while ${plan.handsOff.process} runs`,
    plan.handsOff.file && `while ${plan.handsOff.file} stands`,
    plan.handsOff.growing && "while the document grows",
  ].filter(Boolean);
  return {
    when: `${seconds(plan.quiet)} s of quiet, ${minutes(plan.hardLimit)} min at most`,
    many: [
      olderWords(plan.keep),
      plan.projectRoom > 0 && `the project within ${plan.projectRoom / GB} GB`,
    ]
      .filter(Boolean)
      .join("; "),
    programs: autosaveWords(plan.programCopies),
    older: compactingWords(plan.compacting, proposed),
    pauses: pauses.join(", ") || "none",
    out:
      plan.light.pictures || plan.light.entries.length > 0
        ? `every ${plan.light.fullEvery}th backup is full`
        : "nothing: every backup is full",
    remind: orNever(minutes(plan.reminder), "min after the last save"),
    ask: plan.loss.percent === 0 ? "never" : `from ${plan.loss.percent} % of the parts`,
    tests: `asked for after ${orNever(days(plan.proving.askAfter), "days")}`,
  };
}

/** What is kept besides the newest, in a few words. */
export function olderWords(keep: Counts): string {
  const spans = [
    seconds(keep.hourly) > 0 && `hourly for ${Math.round(seconds(keep.hourly) / DAY)} days`,
    seconds(keep.daily) > 0 && `daily for ${Math.round(seconds(keep.daily) / DAY)} days`,
    seconds(keep.weekly) > 0 && `weekly for ${Math.round(seconds(keep.weekly) / (7 * DAY))} weeks`,
    keep.ring > 0 && `a ring of ${keep.ring}`,
    keep.room > 0 && `within ${keep.room / GB} GB`,
  ].filter(Boolean);
  return spans.join(", ") || "nothing older";
}

function Section(props: { value: string; title: string; says: string; children: ReactNode }) {
  return (
    <Accordion.Item value={props.value} borderColor="hairline">
      <Accordion.ItemTrigger py="2" gap="3" cursor="pointer">
        <Text w="138px" flexShrink="0" textAlign="left" fontSize="14px" fontWeight="600">
          {props.title}
        </Text>
        <Text flex="1" minW="0" textAlign="left" color="muted" fontSize="13px" truncate>
          {props.says}
        </Text>
        <Accordion.ItemIndicator />
      </Accordion.ItemTrigger>
      <Accordion.ItemContent>
        <Accordion.ItemBody pt="0" pb="2">
          {props.children}
        </Accordion.ItemBody>
      </Accordion.ItemContent>
    </Accordion.Item>
  );
}

/** Everything finer than the three settings on top, closed until wanted. */
export function Form({
  set,
  plan,
  runs,
  answer,
  project,
  holds,
  beside,
  children,
}: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
  runs: boolean;
  /** What it comes to; undefined while that is asked. */
  answer: PlanAnswer | undefined;
  project: string;
  /** True if the plan as shown is the one that holds. */
  holds: boolean;
  /** What the work needs outside of the project. */
  beside: ReactNode;
  children?: ReactNode;
}) {
  const says = summaries(plan, useCompacting(project).data?.proposed);
  return (
    <Accordion.Root multiple collapsible lazyMount>
      <Section value="when" title="When exactly" says={says.when}>
        <When plan={plan} set={set} />
      </Section>
      <Section value="many" title="How many exactly" says={says.many}>
        <Keep
          counts={plan.keep}
          set={(changes) => set({ keep: { ...plan.keep, ...changes } })}
          room={plan.projectRoom}
          setRoom={(projectRoom) => set({ projectRoom })}
        />
        {runs && <Steps plan={plan} set={set} />}
      </Section>
      {!runs && (
        <Section value="programs" title="Autosaves" says={says.programs}>
          <Autosaves plan={plan} set={set} answer={answer} />
        </Section>
      )}
      <Section value="older" title="Older versions" says={says.older}>
        <OlderVersions project={project} plan={plan} holds={holds} set={set} />
      </Section>
      <Section value="pauses" title="Pauses" says={says.pauses}>
        <HandsOff plan={plan.handsOff} set={(handsOff) => set({ handsOff })} />
      </Section>
      <Section value="out" title="Left out" says={says.out}>
        <LightCopies light={plan.light} set={(light) => set({ light })} />
      </Section>
      {!runs && (
        <Section value="remind" title="Reminders" says={says.remind}>
          <Remind plan={plan} set={set} proposed={answer?.reminder} />
        </Section>
      )}
      <Section value="ask" title="Questions" says={says.ask}>
        <Questions plan={plan} set={set} />
      </Section>
      <Section value="tests" title="Regular tests" says={says.tests}>
        <Tests plan={plan} set={set} />
      </Section>
      <Section
        value="beside"
        title="Beside the project"
        says="templates, presets, linked files elsewhere"
      >
        {beside}
      </Section>
      <Section
        value="runs"
        title="Files of a run"
        says={runs ? "set-up, restart and result of each step" : "none belong together"}
      >
        {children}
      </Section>
    </Accordion.Root>
  );
}
