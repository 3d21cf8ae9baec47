import { Accordion, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Counts, Plan as PlanRecord, PlanAnswer } from "../api/schema";
import { type CompactingProposal, useCompacting } from "../api/compacting";
import { days, minutes, seconds } from "../shared/words";
import { Autosaves, autosaveWords } from "./Autosaves";
import { compactingWords, OlderVersions } from "./OlderVersions";
import { phrase } from "../words/phrase";
import { Questions, Remind, Tests } from "./Asking";
import { HandsOff, LightCopies } from "./HeldBack";
import { Keep } from "./HowManyExactly";
import { Steps, When } from "./WhenExactly";

const GB = 1e9;

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
    seconds(keep.hourly) > 0 && phrase("plan.hourlyForDays", { days: days(keep.hourly) }),
    seconds(keep.daily) > 0 && phrase("plan.dailyForDays", { days: days(keep.daily) }),
    seconds(keep.weekly) > 0 &&
      phrase("plan.weeklyForWeeks", { weeks: Math.round(days(keep.weekly) / 7) }),
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
