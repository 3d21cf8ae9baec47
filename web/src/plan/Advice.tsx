import { Box, Button, Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type {
  Advice as AdviceRecord,
  Plan as PlanRecord,
  Proposal as ProposalRecord,
  Spacing as SpacingRecord,
} from "../api/schema";
import { Quiet } from "../shared/parts";
import { Number } from "../shared/fields";
import { Why } from "../shared/Why";
import { age, count, duration, given, seconds, size, decimal } from "../shared/words";
import { Curve, STOPS, type Point, type Span } from "./Curve";
import { phrase } from "../words/phrase";

/** Working time, of which there are no days: "3 h 50 min", from ten hours on "36 h". */
export const worked = (iso: string) =>
  seconds(iso) < 36_000 ? age(seconds(iso) * 1000) : `${Math.round(seconds(iso) / 3600)} h`;

function rateWords({ rate }: AdviceRecord): string {
  if (rate.said)
    return phrase("plan.aCrashEveryOfWorkAs", { worked: worked(rate.every ?? "PT0S") });
  if (rate.from === undefined) return phrase("plan.noWorkWasSeenYet");
  if (rate.to === undefined) {
    return phrase("plan.noCrashInOfWorkSeen", {
      worked: worked(rate.worked),
      atMost: worked(rate.from),
    });
  }
  const spread = phrase("plan.to", { from: worked(rate.from), to: worked(rate.to) });
  return phrase("plan.aCrashEveryOfWorkIn", {
    spread,
    crashes: count(rate.crashes, "crash"),
    worked: worked(rate.worked),
  });
}

function priceWords({ price, step }: AdviceRecord): string {
  if (price.stall === undefined)
    return step === undefined
      ? phrase("plan.nothingTellsYetHowLongAn")
      : phrase("plan.noRestartFileWasMeasuredYet");
  const held = `${decimal(seconds(price.stall), 2)} s`;
  if (price.said) return phrase("plan.aSaveOfItsOwnHolds", { held });
  return step === undefined
    ? phrase("plan.anAutosaveOfTheProgramsHolds", { held, files: count(price.files, "file") })
    : phrase("plan.aRestartFileTakesAbout", { held });
}

/** What was measured, and what the person puts in its place. */
function Measured({
  advice,
  plan,
  set,
}: {
  advice: AdviceRecord;
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  const { stall, crashEvery } = plan.reckoning;
  const put = (changes: Partial<PlanRecord["reckoning"]>) =>
    set({ reckoning: given({ ...plan.reckoning, ...changes }) });
  return (
    <Text as="div" color="muted" fontSize="13px" minH="56px">
      {priceWords(advice)}.{" "}
      {stall === undefined ? (
        <Quiet onClick={() => put({ stall: advice.price.stall ?? "PT1S" })}>
          {phrase("plan.sayOtherwise")}
        </Quiet>
      ) : (
        <>
          <Number
            label={phrase("plan.secondsASaveOfItsOwn")}
            value={seconds(stall)}
            min={0}
            max={14400}
            step={0.1}
            onChange={(s) => put({ stall: duration(Math.max(0, s)) })}
          />{" "}
          s{" "}
          <Quiet onClick={() => put({ stall: undefined })}>
            {phrase("plan.useWhatIsMeasured")}
          </Quiet>
        </>
      )}
      <br />
      {rateWords(advice)} · <Why why={advice.rateWhy} name={phrase("plan.soManyCrashes")} />{" "}
      {crashEvery === undefined ? (
        <Quiet onClick={() => put({ crashEvery: advice.rate.every ?? "PT20H" })}>
          {phrase("plan.sayOtherwise")}
        </Quiet>
      ) : (
        <>
          <Number
            label={phrase("plan.workingHoursBetweenCrashes")}
            value={seconds(crashEvery) / 3600}
            min={0.1}
            max={87600}
            onChange={(h) => put({ crashEvery: duration(Math.max(60, Math.round(h * 3600))) })}
          />{" "}
          h{" "}
          <Quiet onClick={() => put({ crashEvery: undefined })}>
            {phrase("plan.useWhatWasSeen")}
          </Quiet>
        </>
      )}
    </Text>
  );
}

/** Whole numbers of steps near the usual stops; steps may be far shorter or longer than those. */
const stepStops = (step: number) => [
  ...new Set(STOPS.map((s) => Math.max(1, Math.round(s / step)) * step)),
];

/** One press takes over what is better; the words say exactly what that changes. */
function Proposal(props: {
  proposal: ProposalRecord | undefined;
  good: string;
  steps: boolean;
  onTake: (plan: PlanRecord) => void;
}) {
  const { proposal, good, steps, onTake } = props;
  if (!proposal) {
    return (
      <Text color="muted" fontSize="13px" minH="34px" pt="1.5">
        {good}
      </Text>
    );
  }
  const taken = steps
    ? phrase("plan.everyAndKeep", {
        steps: count(proposal.plan.everySteps, "step"),
        restarts: proposal.plan.runs.restarts,
      })
    : phrase("plan.andKeep", {
        age: age(seconds(proposal.plan.interval) * 1000),
        newest: proposal.plan.keep.newest,
      });
  const more = proposal.moreBytes;
  return (
    <Flex align="center" gap="3" minH="34px" wrap="wrap">
      <Button
        size="sm"
        variant="outline"
        borderColor="fir"
        color="fir"
        onClick={() => onTake(proposal.plan)}
      >
        {phrase("plan.use", { taken })}
      </Button>
      <Text color="muted" fontSize="13px" flex="1" minW="240px">
        {phrase("plan.reachesAsFarBack", {
          changes: proposal.changes.join(", "),
          room:
            more === 0
              ? phrase("plan.noMoreRoom")
              : more > 0
                ? phrase("plan.more", { size: size(more) })
                : phrase("plan.less", { size: size(-more) }),
          told: proposal.told.join(" "),
        })}
      </Text>
    </Flex>
  );
}

type Set = (changes: Partial<PlanRecord>) => void;

const wasted = (advice: AdviceRecord): Point[] =>
  advice.curve.map((p) => ({ interval: seconds(p.interval), minutes: p.waste * 60 }));

/** "3 min to 13 min: equally good". */
export function goodSpan(advice: AdviceRecord): Span | undefined {
  if (advice.from === undefined || advice.to === undefined) return undefined;
  const [from, to] = [seconds(advice.from), seconds(advice.to)];
  const [a, b] = [age(from * 1000), age(to * 1000)];
  return {
    from,
    to,
    words: a === b ? phrase("plan.isBest", { a }) : phrase("plan.toEquallyGood", { a, b }),
  };
}

function Title({ children, why }: { children: ReactNode; why?: ReactNode }) {
  return (
    <Text as="h3" fontSize="14px" fontWeight="650">
      {children}
      {why && (
        <Text as="span" fontWeight="400" fontSize="12px" color="muted">
          {" "}
          · {why}
        </Text>
      )}
    </Text>
  );
}

/** How often runs should be backed up: dragged over what each interval wastes. */
function ForRuns(props: { advice: AdviceRecord; step: number; plan: PlanRecord; set: Set }) {
  const { advice, step, plan, set } = props;
  return (
    <>
      <Title
        why={
          advice.curve.length > 0 && (
            <Why why={advice.why} name={phrase("plan.thisIntervalIsBest")} />
          )
        }
      >
        {phrase("plan.minutesLostForEachHourOf")}
      </Title>
      <Measured advice={advice} plan={plan} set={set} />
      <Curve
        points={wasted(advice)}
        span={goodSpan(advice)}
        interval={step * plan.everySteps || 14400}
        words={phrase("plan.your", { steps: count(plan.everySteps, "step") })}
        stops={stepStops(step)}
        onChange={(s) => set({ everySteps: Math.max(1, Math.round(s / step)) })}
      />
      <Proposal
        proposal={advice.proposal}
        good={advice.curve.length > 0 ? phrase("plan.nothingBetterIsKnownYourInterval") : ""}
        steps
        onTake={set}
      />
    </>
  );
}

function busyWords(spacing: SpacingRecord, interval: number): string {
  const point = spacing.points.reduce<SpacingRecord["points"][number] | undefined>(
    (best, p) =>
      best === undefined ||
      Math.abs(Math.log(seconds(p.interval) / interval)) <
        Math.abs(Math.log(seconds(best.interval) / interval))
        ? p
        : best,
    undefined,
  );
  if (!point) return "";
  const busy =
    point.busy === undefined
      ? ""
      : phrase("plan.ofTheTimeBeingCopied", { percent: percent(point.busy) });
  return phrase("plan.aBackupRunsInTheBackground", {
    interval: age(seconds(point.interval) * 1000),
    size: size(point.bytesPerHour),
    busy,
    lost: age(seconds(point.usual) * 1000),
  });
}

const percent = (share: number) => `${decimal(share * 100, share < 0.01 ? 2 : 1)} %`;

/** How far apart Kavrin's backups lie: dragged over what would be lost. */
function ForBackups(props: { spacing: SpacingRecord; plan: PlanRecord; set: Set }) {
  const { spacing, plan, set } = props;
  const interval = seconds(plan.interval);
  const longest = spacing.longest === undefined ? undefined : seconds(spacing.longest);
  const accepted = age(seconds(plan.accepted) * 1000);
  return (
    <>
      <Title why={<Why why={spacing.why} name={phrase("plan.thisIsTheLongest")} />}>
        {phrase("plan.workLostAtWorstByHow")}
      </Title>
      <Curve
        points={spacing.points.map((p) => ({
          interval: seconds(p.interval),
          minutes: seconds(p.worst) / 60,
        }))}
        span={
          longest === undefined
            ? undefined
            : {
                from: 30,
                to: longest,
                words: phrase("plan.upToWithinTheYouAccept", {
                  age: age(longest * 1000),
                  accepted,
                }),
              }
        }
        interval={interval === 0 ? 14400 : interval}
        words={
          plan.everySave
            ? phrase("plan.everySave")
            : interval === 0
              ? phrase("plan.noTimedBackups")
              : phrase("plan.your2", { age: age(interval * 1000) })
        }
        stops={STOPS}
        onChange={(s) => set({ interval: duration(s) })}
      />
      <Text color="muted" fontSize="13px">
        {spacing.points.length === 0
          ? phrase("plan.nothingTellsHowOftenTheProgram")
          : busyWords(spacing, interval || 14400)}
      </Text>
      <Proposal
        proposal={spacing.proposal}
        good={
          spacing.told ??
          (spacing.points.length > 0 ? phrase("plan.yourIntervalKeepsToTheYou", { accepted }) : "")
        }
        steps={false}
        onTake={set}
      />
    </>
  );
}

/** What the program's own autosave wastes, by its interval; it is set in the program. */
function OwnAutosave(props: { advice: AdviceRecord; plan: PlanRecord; set: Set }) {
  const { advice, plan, set } = props;
  const present = advice.present && seconds(advice.present.interval);
  return (
    <Box mt="4">
      <Title
        why={
          advice.curve.length > 0 && (
            <Why why={advice.why} name={phrase("plan.thisIntervalIsBest")} />
          )
        }
      >
        {phrase("plan.theProgramsOwnAutosaveMinutesLost")}
      </Title>
      <Measured advice={advice} plan={plan} set={set} />
      {advice.curve.length > 0 && (
        <Curve
          points={wasted(advice)}
          span={goodSpan(advice)}
          interval={present}
          words={
            present === undefined ? "" : phrase("plan.itWritesEvery", { age: age(present * 1000) })
          }
        />
      )}
    </Box>
  );
}

/** What to choose, with what each choice comes to. */
export function Advice(props: {
  advice: AdviceRecord | undefined;
  spacing: SpacingRecord | undefined;
  plan: PlanRecord;
  set: Set;
}) {
  const { advice, spacing, plan, set } = props;
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline" minH="340px">
      {advice?.step !== undefined && (
        <ForRuns advice={advice} step={seconds(advice.step)} plan={plan} set={set} />
      )}
      {advice && spacing && (
        <>
          <ForBackups spacing={spacing} plan={plan} set={set} />
          <OwnAutosave advice={advice} plan={plan} set={set} />
        </>
      )}
    </Box>
  );
}
