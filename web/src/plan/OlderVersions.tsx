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

const many = (n: number) => count(n, "version");

function Stands({ now }: { now: CompactingStanding }) {
  return (
    <Text fontSize="13px">
      {now.compacted === 0
        ? "None is compacted yet. "
        : `${many(now.compacted)} compacted: ${size(now.stored)} instead of ${size(now.plain)}. `}
      {now.due > 0 && `${many(now.due)} (${size(now.dueBytes)}) wait until nobody works.`}
    </Text>
  );
}

function Comes({ to }: { to: CompactingEstimate }) {
  if (to.versions === 0)
    return (
      <Text fontSize="13px" role="status">
        Nothing to compact: all versions there are would stay plain files.
      </Text>
    );
  return (
    <Text fontSize="13px" role="status">
      {many(to.versions)}: {size(to.before)} → {size(to.after)}, about{" "}
      {age(seconds(to.time) * 1000)} of work while nobody works, in each backup folder. Measured on{" "}
      {many(to.measured)} of its own.
    </Text>
  );
}

/** Found out by itself: it would pay, and one press wants it. */
function Pays(props: { proposed: CompactingProposal; onTake: () => void }) {
  const { comesTo } = props.proposed;
  return (
    <Notice tone="fir">
      It would pay: {many(comesTo.versions)} of {size(comesTo.before)} would take{" "}
      {size(comesTo.after)}, about {age(seconds(comesTo.time) * 1000)} of work while nobody works.
      Measured on {many(comesTo.measured)} of its own.{" "}
      <Quiet needs="PLAN" onClick={props.onTake}>
        Compact them
      </Quiet>
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
    <Setting
      name="Compact"
      under="equal pieces of older versions are stored once; each still opens, compares and restores as ever, and unpack.sh in the backup folder unpacks it without Kavrin"
    >
      <Flex w="100%" align="center" gap="1.5" wrap="wrap">
        <Tick
          label="older versions, while nobody works;"
          on={compacting.on}
          onChange={(on) => change({ on })}
        />
        the newest
        <Number
          label="Newest versions that stay plain files"
          value={compacting.newest}
          min={1}
          max={10000}
          onChange={(n) => change({ newest: Math.round(n) })}
        />
        and one of every
        <Number
          label="One of every so many stays a plain file"
          value={compacting.every}
          min={2}
          max={10000}
          onChange={(n) => change({ every: Math.round(n) })}
        />
        stay plain files
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
          Measure what it saves
        </Side>
        {compacting.on && props.holds && (standing?.due ?? 0) > 0 && (
          <Side needs="PLAN" loading={now.isPending} onClick={() => now.mutate()}>
            Compact now
          </Side>
        )}
        {now.isPending && left && <Text fontSize="13px">{left}</Text>}
        {measure.data && <Comes to={measure.data} />}
        {now.isSuccess && (
          <Text fontSize="13px" role="status">
            Compacted {many(now.data.versions)}: {size(now.data.before)} → {size(now.data.after)}.
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
    return `all but the newest ${compacting.newest} and one of every ${compacting.every}`;
  return proposed
    ? `none; compacted they would take ${size(proposed.comesTo.before - proposed.comesTo.after)} less`
    : "none: all stay plain files";
}
