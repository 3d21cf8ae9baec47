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
import { phrase } from "../words/phrase";

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
    {
      key: "hourly",
      label: phrase("plan.daysOfHourlyCopies"),
      words: "plan.theFirstOfEachHour",
      length: DAY,
    },
    {
      key: "daily",
      label: phrase("plan.daysOfDailyCopies"),
      words: "plan.theFirstOfEachDay",
      length: DAY,
    },
    {
      key: "weekly",
      label: phrase("plan.weeksOfWeeklyCopies"),
      words: "plan.theFirstOfEachWeek",
      length: 7 * DAY,
    },
  ] as const;
  return (
    <Setting
      name={phrase("plan.besidesTheNewest")}
      under={phrase("plan.pinnedNotedAndSecuredBackupsAnd")}
    >
      {spans.map((s) => (
        <Row key={s.key}>
          {phrase(s.words, {
            number: (
              <Number
                label={s.label}
                value={seconds(counts[s.key]) / s.length}
                min={0}
                max={Math.floor((3650 * DAY) / s.length)}
                onChange={(n) => set({ [s.key]: duration(Math.round(n * s.length)) })}
              />
            ),
          })}
        </Row>
      ))}
      <Row>
        {phrase("plan.aThinningRingOfSlotsEvery", {
          number: (
            <Number
              label={phrase("plan.slotsOfTheRing")}
              value={counts.ring}
              min={0}
              max={40}
              onChange={(n) => set({ ring: Math.round(n) })}
            />
          ),
        })}
      </Row>
      <Row>
        {phrase("plan.allInAtMostGbFor", {
          number: (
            <Number
              label={phrase("plan.gigabytesForOneDocument")}
              value={counts.room / GB}
              min={0}
              max={1_000_000}
              step={0.5}
              onChange={(n) => set({ room: Math.round(n * GB) })}
            />
          ),
        })}
      </Row>
      <Row>
        {phrase("plan.allDocumentsOfTheProjectIn", {
          number: (
            <Number
              label={phrase("plan.gigabytesForTheProject")}
              value={room / GB}
              min={0}
              max={1_000_000}
              step={0.5}
              onChange={(n) => setRoom(Math.round(n * GB))}
            />
          ),
        })}
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
      name={phrase("plan.pauseWhile")}
      under={phrase("plan.thenKavrinNeitherReadsNorWrites")}
    >
      <Row>
        {phrase("plan.whileAProcessCalledRuns", {
          words: (
            <Words
              label={phrase("plan.processThatKeepsKavrinAway")}
              value={plan.process}
              placeholder={phrase("plan.noneSet")}
              onChange={(process) => change({ process })}
            />
          ),
        })}
      </Row>
      <Row>
        {phrase("plan.whileAFileCalledStands", {
          words: (
            <Words
              label={phrase("plan.fileThatKeepsKavrinAway")}
              value={plan.file}
              placeholder={phrase("plan.noneSet")}
              onChange={(file) => change({ file })}
            />
          ),
        })}
      </Row>
      <Row>
        <Tick
          label={phrase("plan.whileTheDocumentGrows")}
          on={plan.growing}
          onChange={(growing) => change({ growing })}
        />
      </Row>
      <Row>
        {phrase("plan.forMinAtMost0No", {
          number: (
            <Number
              label={phrase("plan.minutesOfAPauseAtMost")}
              value={seconds(plan.limit) / 60}
              min={0}
              max={10080}
              onChange={(m) => change({ limit: duration(Math.round(m * 60)) })}
            />
          ),
        })}
      </Row>
    </Setting>
  );
}

/** What timed copies leave out; every so many-th is full all the same. */
function LightCopies({ light, set }: { light: Light; set: (changed: Light) => void }) {
  const change = (changes: Partial<Light>) => set({ ...light, ...changes });
  const on = light.pictures || light.entries.length > 0;
  return (
    <Setting name={phrase("plan.leaveOut")} under={phrase("plan.ofTimedBackupsWhatIsLeft")}>
      <Row>
        <Tick
          label={phrase("plan.embeddedPicturesOfModels")}
          on={light.pictures}
          onChange={(pictures) => change({ pictures })}
        />
      </Row>
      <Row>
        {phrase("plan.ofArchivesEntriesCalled", {
          words: (
            <Words
              label={phrase("plan.archiveEntriesToLeaveOut")}
              value={light.entries.join(" ")}
              placeholder={phrase("plan.noneSet")}
              onChange={(text) => change({ entries: text.split(/ +/).filter(Boolean) })}
            />
          ),
        })}
      </Row>
      {on && (
        <Row>
          {phrase("plan.everyThBackupIsFullAll", {
            number: (
              <Number
                label={phrase("plan.everySoManyThCopyFull")}
                value={light.fullEvery}
                min={2}
                max={10000}
                onChange={(n) => change({ fullEvery: Math.round(n) })}
              />
            ),
          })}
        </Row>
      )}
    </Setting>
  );
}

/** What belongs to each step of a run. */
function Steps({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
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

function When({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
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

function Questions({
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

function Tests({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
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

const minutes = (iso: string) => seconds(iso) / 60;
const days = (iso: string) => Math.round(seconds(iso) / DAY);
const orNever = (n: number, words: "plan.orDays" | "plan.minAfterTheLastSave") =>
  n === 0 ? phrase("plan.never") : phrase(words, { n });

/** What a closed section says. */
function summaries(plan: PlanRecord, proposed: CompactingProposal | undefined) {
  const pauses = [
    plan.handsOff.process && phrase("plan.whileRuns", { process: plan.handsOff.process }),
    plan.handsOff.file && phrase("plan.whileStands", { file: plan.handsOff.file }),
    plan.handsOff.growing && phrase("plan.whileTheDocumentGrows"),
  ].filter(Boolean);
  return {
    when: phrase("plan.sOfQuietMinAtMost2", {
      seconds: seconds(plan.quiet),
      minutes: minutes(plan.hardLimit),
    }),
    many: [
      olderWords(plan.keep),
      plan.projectRoom > 0 &&
        phrase("plan.theProjectWithinGb", { projectRoom: plan.projectRoom / GB }),
    ]
      .filter(Boolean)
      .join("; "),
    programs: autosaveWords(plan.programCopies),
    older: compactingWords(plan.compacting, proposed),
    pauses: pauses.join(", ") || phrase("plan.none"),
    out:
      plan.light.pictures || plan.light.entries.length > 0
        ? phrase("plan.everyThBackupIsFull", { fullEvery: plan.light.fullEvery })
        : phrase("plan.nothingEveryBackupIsFull"),
    remind: orNever(minutes(plan.reminder), "plan.minAfterTheLastSave"),
    ask:
      plan.loss.percent === 0
        ? phrase("plan.never")
        : phrase("plan.fromOfTheParts", { percent: plan.loss.percent }),
    tests: phrase("plan.askedForAfter", {
      orNever: orNever(days(plan.proving.askAfter), "plan.orDays"),
    }),
  };
}

/** What is kept besides the newest, in a few words. */
export function olderWords(keep: Counts): string {
  const spans = [
    seconds(keep.hourly) > 0 &&
      phrase("plan.hourlyForDays", { round: Math.round(seconds(keep.hourly) / DAY) }),
    seconds(keep.daily) > 0 &&
      phrase("plan.dailyForDays", { round: Math.round(seconds(keep.daily) / DAY) }),
    seconds(keep.weekly) > 0 &&
      phrase("plan.weeklyForWeeks", { round: Math.round(seconds(keep.weekly) / (7 * DAY)) }),
    keep.ring > 0 && phrase("plan.aRingOf", { ring: keep.ring }),
    keep.room > 0 && phrase("plan.withinGb", { room: keep.room / GB }),
  ].filter(Boolean);
  return spans.join(", ") || phrase("plan.nothingOlder");
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
      <Section value="when" title={phrase("plan.whenExactly")} says={says.when}>
        <When plan={plan} set={set} />
      </Section>
      <Section value="many" title={phrase("plan.howManyExactly")} says={says.many}>
        <Keep
          counts={plan.keep}
          set={(changes) => set({ keep: { ...plan.keep, ...changes } })}
          room={plan.projectRoom}
          setRoom={(projectRoom) => set({ projectRoom })}
        />
        {runs && <Steps plan={plan} set={set} />}
      </Section>
      {!runs && (
        <Section value="programs" title={phrase("plan.autosaves")} says={says.programs}>
          <Autosaves plan={plan} set={set} answer={answer} />
        </Section>
      )}
      <Section value="older" title={phrase("plan.olderVersions")} says={says.older}>
        <OlderVersions project={project} plan={plan} holds={holds} set={set} />
      </Section>
      <Section value="pauses" title={phrase("plan.pauses")} says={says.pauses}>
        <HandsOff plan={plan.handsOff} set={(handsOff) => set({ handsOff })} />
      </Section>
      <Section value="out" title={phrase("plan.leftOut")} says={says.out}>
        <LightCopies light={plan.light} set={(light) => set({ light })} />
      </Section>
      {!runs && (
        <Section value="remind" title={phrase("plan.reminders")} says={says.remind}>
          <Remind plan={plan} set={set} proposed={answer?.reminder} />
        </Section>
      )}
      <Section value="ask" title={phrase("plan.questions")} says={says.ask}>
        <Questions plan={plan} set={set} />
      </Section>
      <Section value="tests" title={phrase("plan.regularTests")} says={says.tests}>
        <Tests plan={plan} set={set} />
      </Section>
      <Section
        value="beside"
        title={phrase("plan.besideTheProject")}
        says={phrase("plan.templatesPresetsLinkedFilesElsewhere")}
      >
        {beside}
      </Section>
      <Section
        value="runs"
        title={phrase("plan.filesOfARun")}
        says={runs ? phrase("plan.setUpRestartAndResultOf") : phrase("plan.noneBelongTogether")}
      >
        {children}
      </Section>
    </Accordion.Root>
  );
}
