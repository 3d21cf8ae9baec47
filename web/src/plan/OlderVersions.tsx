import { Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  type CompactingEstimate,
  type CompactingProposal,
  type CompactingStanding,
  useCompacting,
  useCompactNow,
  useMeasureCompacting,
} from "../api/compacting";
import type { Plan as PlanRecord } from "../api/schema";
import { Number, Setting, Tick } from "../shared/fields";
import { Failure, Notice, Quiet, Side } from "../shared/parts";
import { age, count, seconds, size } from "../shared/words";
import { phrase } from "../words/phrase";

const many = (n: number) => count(n, "version");

function Stands({ now }: { now: CompactingStanding }) {
  return (
    <Text fontSize="13px">
      {now.compacted === 0
        ? `${phrase("plan.noneIsCompactedYet")} `
        : `${phrase("plan.compactedInsteadOf", { many: many(now.compacted), now: size(now.stored), before: size(now.plain) })} `}
      {now.due > 0 &&
        phrase("plan.waitUntilNobodyWorks", { many: many(now.due), size: size(now.dueBytes) })}
    </Text>
  );
}

function Comes({ to }: { to: CompactingEstimate }) {
  if (to.versions === 0)
    return (
      <Text fontSize="13px" role="status">
        {phrase("plan.nothingToCompactAllVersionsThere")}
      </Text>
    );
  return (
    <Text fontSize="13px" role="status">
      {phrase("plan.aboutOfWorkWhileNobodyWorks", {
        many: many(to.versions),
        before: size(to.before),
        after: size(to.after),
        age: age(seconds(to.time) * 1000),
        measured: many(to.measured),
      })}
    </Text>
  );
}

/** Found out by itself: it would pay, and one press wants it. */
function Pays(props: { proposed: CompactingProposal; onTake: () => void }) {
  const { comesTo } = props.proposed;
  return (
    <Notice tone="fir">
      {phrase("plan.itWouldPayOfWouldTake", {
        many: many(comesTo.versions),
        before: size(comesTo.before),
        after: size(comesTo.after),
        age: age(seconds(comesTo.time) * 1000),
        measured: many(comesTo.measured),
        b: (text) => (
          <Quiet needs="PLAN" onClick={props.onTake}>
            {text}
          </Quiet>
        ),
      })}
    </Notice>
  );
}

/** Older versions put together from pieces that stand once; the newest stay plain files. */
export function OlderVersions(props: {
  project: string;
  plan: PlanRecord;
  /** True if the plan as shown is the one that holds. */
  holds: boolean;
  set: (changes: Partial<PlanRecord>) => void;
}) {
  const { compacting } = props.plan;
  const { standing, proposed } = useCompacting(props.project).data ?? {};
  const measure = useMeasureCompacting(props.project);
  const [left, setLeft] = useState<string>();
  const now = useCompactNow(props.project, (job) => setLeft(job.words));
  const change = (changes: Partial<PlanRecord["compacting"]>) =>
    props.set({ compacting: { ...compacting, ...changes } });
  return (
    <Setting name={phrase("plan.compact")} under={phrase("plan.equalPiecesOfOlderVersionsAre")}>
      <Flex w="100%" align="center" gap="1.5" wrap="wrap">
        <Tick
          label={phrase("plan.olderVersionsWhileNobodyWorks")}
          on={compacting.on}
          onChange={(on) => change({ on })}
        />
        {phrase("plan.theNewestAndOneOfEvery", {
          number: (
            <Number
              label={phrase("plan.newestVersionsThatStayPlainFiles")}
              value={compacting.newest}
              min={1}
              max={10000}
              onChange={(n) => change({ newest: Math.round(n) })}
            />
          ),
          number2: (
            <Number
              label={phrase("plan.oneOfEverySoManyStays")}
              value={compacting.every}
              min={2}
              max={10000}
              onChange={(n) => change({ every: Math.round(n) })}
            />
          ),
        })}
      </Flex>
      {standing && <Stands now={standing} />}
      {proposed && !compacting.on && (
        <Pays proposed={proposed} onTake={() => change(proposed.asIf)} />
      )}
      <Flex w="100%" align="center" gap="2" wrap="wrap">
        <Side
          needs="PLAN"
          loading={measure.isPending}
          onClick={() => measure.mutate({ newest: compacting.newest, every: compacting.every })}
        >
          {phrase("plan.measureWhatItSaves")}
        </Side>
        {compacting.on && props.holds && (standing?.due ?? 0) > 0 && (
          <Side needs="PLAN" loading={now.isPending} onClick={() => now.mutate()}>
            {phrase("plan.compactNow")}
          </Side>
        )}
        {now.isPending && left && <Text fontSize="13px">{left}</Text>}
        {measure.data && <Comes to={measure.data} />}
        {now.isSuccess && (
          <Text fontSize="13px" role="status">
            {phrase("plan.compacted", {
              many: many(now.data.versions),
              before: size(now.data.before),
              after: size(now.data.after),
            })}
          </Text>
        )}
      </Flex>
      <Failure error={measure.error ?? now.error} />
    </Setting>
  );
}

/** What stays plain, in a few words. */
export function compactingWords(
  compacting: PlanRecord["compacting"],
  proposed: CompactingProposal | undefined,
): string {
  if (compacting.on)
    return phrase("plan.allButTheNewestAndOne", {
      newest: compacting.newest,
      every: compacting.every,
    });
  return proposed
    ? phrase("plan.noneCompactedTheyWouldTakeLess", {
        size: size(proposed.comesTo.before - proposed.comesTo.after),
      })
    : phrase("plan.noneAllStayPlainFiles");
}
