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
import { age, count, duration, given, seconds, size } from "../shared/words";
import { Curve, STOPS, type Point, type Span } from "./Curve";

/** Working time, of which there are no days: "3 h 50 min", from ten hours on "36 h". */
export const worked = (iso: string) =>
  seconds(iso) < 36_000 ? age(seconds(iso) * 1000) : `${Math.round(seconds(iso) / 3600)} h`;

const crashes = (n: number) => (n === 1 ? "1 crash" : `${n} crashes`);

function rateWords({ rate }: AdviceRecord): string {
  if (rate.said) return `A crash every ${worked(rate.every ?? "PT0S")} of work, as you said`;
  if (rate.from === undefined) return "No work was seen yet";
  if (rate.to === undefined) {
    return `No crash in ${worked(rate.worked)} of work seen: one in ${worked(rate.from)} at most`;
  }
  const spread = `${worked(rate.from)} to ${worked(rate.to)}`;
  return `A crash every ${spread} of work (${crashes(rate.crashes)} in ${worked(rate.worked)})`;
}

function priceWords({ price, step }: AdviceRecord): string {
  if (price.stall === undefined)
    return step === undefined
      ? "Nothing tells yet how long an autosave of the program's takes"
      : "No restart file was measured yet";
  const held = `${seconds(price.stall).toFixed(2)} s`;
  if (price.said) return `A save of its own holds you up ${held}, as you said`;
  return step === undefined
    ? `An autosave of the program's holds you up ${held} or more (${count(price.files, "file")} measured, first to last byte)`
    : `A restart file takes about ${held}`;
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
        <Quiet onClick={() => put({ stall: advice.price.stall ?? "PT1S" })}>say otherwise</Quiet>
      ) : (
        <>
          <Number
            label="Seconds a save of its own holds you up"
            value={seconds(stall)}
            min={0}
            max={14400}
            step={0.1}
            onChange={(s) => put({ stall: duration(Math.max(0, s)) })}
          />{" "}
          s <Quiet onClick={() => put({ stall: undefined })}>use what is measured</Quiet>
        </>
      )}
      <br />
      {rateWords(advice)} · <Why why={advice.rateWhy} name="so many crashes" />{" "}
      {crashEvery === undefined ? (
        <Quiet onClick={() => put({ crashEvery: advice.rate.every ?? "PT20H" })}>
          say otherwise
        </Quiet>
      ) : (
        <>
          <Number
            label="Working hours between crashes"
            value={seconds(crashEvery) / 3600}
            min={0.1}
            max={87600}
            onChange={(h) => put({ crashEvery: duration(Math.max(60, Math.round(h * 3600))) })}
          />{" "}
          h <Quiet onClick={() => put({ crashEvery: undefined })}>use what was seen</Quiet>
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
    ? `every ${count(proposal.plan.everySteps, "step")} and keep ${proposal.plan.runs.restarts}`
    : `${age(seconds(proposal.plan.interval) * 1000)} and keep ${proposal.plan.keep.newest}`;
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
        Use {taken}
      </Button>
      <Text color="muted" fontSize="13px" flex="1" minW="240px">
        {proposal.changes.join(", ")}; reaches as far back,{" "}
        {more === 0 ? "no more room" : more > 0 ? `${size(more)} more` : `${size(-more)} less`}.{" "}
        {proposal.told.join(" ")}
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
  return { from, to, words: a === b ? `${a} is best` : `${a} to ${b}: equally good` };
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
      <Title why={advice.curve.length > 0 && <Why why={advice.why} name="this interval is best" />}>
        Minutes lost for each hour of computing, by time between backups
      </Title>
      <Measured advice={advice} plan={plan} set={set} />
      <Curve
        points={wasted(advice)}
        span={goodSpan(advice)}
        interval={step * plan.everySteps || 14400}
        words={`your ${count(plan.everySteps, "step")}`}
        stops={stepStops(step)}
        onChange={(s) => set({ everySteps: Math.max(1, Math.round(s / step)) })}
      />
      <Proposal
        proposal={advice.proposal}
        good={advice.curve.length > 0 ? "Nothing better is known: your interval is as good." : ""}
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
  const busy = point.busy === undefined ? "" : `, ${percent(point.busy)} of the time being copied`;
  return `A backup runs in the background and holds nobody up. At ${age(seconds(point.interval) * 1000)}: ${size(point.bytesPerHour)} an hour of work${busy}; ${age(seconds(point.usual) * 1000)} lost on average.`;
}

const percent = (share: number) => `${(share * 100).toFixed(share < 0.01 ? 2 : 1)} %`;

/** How far apart Kavrin's backups lie: dragged over what would be lost. */
function ForBackups(props: { spacing: SpacingRecord; plan: PlanRecord; set: Set }) {
  const { spacing, plan, set } = props;
  const interval = seconds(plan.interval);
  const longest = spacing.longest === undefined ? undefined : seconds(spacing.longest);
  const accepted = age(seconds(plan.accepted) * 1000);
  return (
    <>
      <Title why={<Why why={spacing.why} name="this is the longest" />}>
        Work lost at worst, by how often Kavrin backs up
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
                words: `up to ${age(longest * 1000)}: within the ${accepted} you accept`,
              }
        }
        interval={interval === 0 ? 14400 : interval}
        words={
          plan.everySave
            ? "every save"
            : interval === 0
              ? "no timed backups"
              : `your ${age(interval * 1000)}`
        }
        stops={STOPS}
        onChange={(s) => set({ interval: duration(s) })}
      />
      <Text color="muted" fontSize="13px">
        {spacing.points.length === 0
          ? "Nothing tells how often the program writes: what would be lost is unknown."
          : busyWords(spacing, interval || 14400)}
      </Text>
      <Proposal
        proposal={spacing.proposal}
        good={
          spacing.told ??
          (spacing.points.length > 0 ? `Your interval keeps to the ${accepted} you accept.` : "")
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
      <Title why={advice.curve.length > 0 && <Why why={advice.why} name="this interval is best" />}>
        The program's own autosave: minutes lost for each hour of work, by its interval
      </Title>
      <Measured advice={advice} plan={plan} set={set} />
      {advice.curve.length > 0 && (
        <Curve
          points={wasted(advice)}
          span={goodSpan(advice)}
          interval={present}
          words={present === undefined ? "" : `it writes every ${age(present * 1000)}`}
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
