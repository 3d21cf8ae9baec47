import { Box, Button, Flex, Text } from "@chakra-ui/react";
import type { Advice as AdviceRecord, Plan as PlanRecord } from "../api/schema";
import { Quiet } from "../shared/parts";
import { Number } from "../shared/fields";
import { Why } from "../shared/Why";
import { age, count, duration, given, seconds, size } from "../shared/words";
import { Curve, STOPS } from "./Curve";

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

function priceWords({ price }: AdviceRecord): string {
  if (price.stall === undefined) return "No copy was measured yet";
  const held = `${seconds(price.stall).toFixed(2)} s`;
  return price.said
    ? `A copy holds you up ${held}, as you said`
    : `A copy takes ${held} behind you`;
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
            label="Seconds a copy holds you up"
            value={seconds(stall)}
            min={0}
            max={14400}
            step={0.1}
            onChange={(s) => put({ stall: duration(Math.max(0, s)) })}
          />{" "}
          s <Quiet onClick={() => put({ stall: undefined })}>take what is measured</Quiet>
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
          h <Quiet onClick={() => put({ crashEvery: undefined })}>take what was seen</Quiet>
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
function Proposal({
  advice,
  onTake,
}: {
  advice: AdviceRecord;
  onTake: (plan: PlanRecord) => void;
}) {
  const { proposal } = advice;
  if (!proposal) {
    const good =
      advice.curve.length > 0 ? "Nothing better is known: your interval is as good." : "";
    return (
      <Text color="muted" fontSize="13px" minH="34px" pt="1.5">
        {good}
      </Text>
    );
  }
  const taken = advice.step
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
        Take {taken}
      </Button>
      <Text color="muted" fontSize="13px" flex="1" minW="240px">
        {proposal.changes.join(", ")}; reaches as far back,{" "}
        {more === 0 ? "no more room" : more > 0 ? `${size(more)} more` : `${size(-more)} less`}.{" "}
        {proposal.told.join(" ")}
      </Text>
    </Flex>
  );
}

/** How often to copy: dragged over what each interval wastes. */
export function Advice(props: {
  advice: AdviceRecord | undefined;
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  const { advice, plan, set } = props;
  const step = advice?.step === undefined ? undefined : seconds(advice.step);
  const interval = step === undefined ? seconds(plan.interval) : step * plan.everySteps;
  const words = plan.everySave
    ? "every save"
    : interval === 0
      ? "no timed copies"
      : step === undefined
        ? `your ${age(interval * 1000)}`
        : `your ${count(plan.everySteps, "step")}`;
  const change = (s: number) =>
    step === undefined
      ? set({ interval: duration(s) })
      : set({ everySteps: Math.max(1, Math.round(s / step)) });
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline">
      <Text fontSize="14px" fontWeight="650">
        {step === undefined
          ? "Minutes lost for each hour of work, by interval"
          : "Minutes lost for each hour of computing, by time between copied steps"}
        {advice && advice.curve.length > 0 && (
          <Text as="span" fontWeight="400" fontSize="12px" color="muted">
            {" "}
            · <Why why={advice.why} name="this interval is best" />
          </Text>
        )}
      </Text>
      <Box minH="56px">{advice && <Measured advice={advice} plan={plan} set={set} />}</Box>
      <Curve
        advice={advice}
        interval={interval === 0 ? 14400 : interval}
        words={words}
        stops={step === undefined ? STOPS : stepStops(step)}
        onChange={change}
      />
      {advice ? <Proposal advice={advice} onTake={(p) => set(p)} /> : <Box minH="34px" />}
    </Box>
  );
}
