import { Flex, Text } from "@chakra-ui/react";
import type { Plan as PlanRecord, PlanAnswer } from "../api/schema";
import { useSession } from "../api/queries";
import { Number, Setting } from "../shared/fields";
import { useNow } from "../shared/useNow";
import { Why } from "../shared/Why";
import { moment } from "../shared/dates";
import { duration, seconds, size } from "../shared/words";

const HOUR = 3_600;

const GUARD: Record<NonNullable<PlanAnswer["lastKept"]>["guard"], string> = {
  CLONE: "by a clone of the file",
  SECOND_NAME: "under a second name, since its program writes a new file each time",
  COPY: "by a copy, since its program writes over the same file",
};

/** What was kept last, and how long nothing guarded it. */
function LastKept({ last }: { last: NonNullable<PlanAnswer["lastKept"]> }) {
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow();
  return (
    <Text fontSize="12px" color="muted" wordBreak="break-word">
      The last one, {last.file.slice(last.file.lastIndexOf("/") + 1)} of{" "}
      {moment(last.written, zone, now)}, {size(last.size)}, was safe {seconds(last.open).toFixed(1)}{" "}
      s after its last byte: {GUARD[last.guard]}.
    </Text>
  );
}

/** What the program writes of its own accord, kept before it writes over it. */
export function Autosaves(props: {
  plan: PlanRecord;
  set: (changes: Partial<PlanRecord>) => void;
  answer: PlanAnswer | undefined;
}) {
  const { programCopies: counts } = props.plan;
  const change = (changes: Partial<PlanRecord["programCopies"]>) =>
    props.set({ programCopies: { ...counts, ...changes } });
  const figures = props.answer?.figures.programs;
  return (
    <Setting
      name="Autosaves"
      under="and whatever else its program profile says it writes aside, in the moment it is written; 0 and 0: none is kept"
    >
      <Flex w="100%" align="center" gap="1.5" wrap="wrap">
        the last
        <Number
          label="Autosaves to keep"
          value={counts.newest}
          min={0}
          max={1000}
          onChange={(n) => change({ newest: Math.round(n) })}
        />
        and the last of each hour for
        <Number
          label="Hours of hourly autosaves"
          value={seconds(counts.hourly) / HOUR}
          min={0}
          max={720}
          onChange={(n) => change({ hourly: duration(Math.round(n * HOUR)) })}
        />
        hours
      </Flex>
      {figures && (
        <Text fontSize="12px">
          {figures.room > 0
            ? `up to ${size(figures.room)} of room, ${size(figures.loadPerHour)} written an hour of work`
            : figures.why.filled}{" "}
          <Why why={figures.why} name="Room of autosaves" />
        </Text>
      )}
      {props.answer?.lastKept && <LastKept last={props.answer.lastKept} />}
    </Setting>
  );
}

/** How many are kept, in a few words. */
export function autosaveWords(counts: PlanRecord["programCopies"]): string {
  const hours = seconds(counts.hourly) / HOUR;
  const kept = [
    counts.newest > 0 && `the last ${counts.newest}`,
    hours > 0 && `one an hour for ${hours} h`,
  ].filter(Boolean);
  return kept.length > 0 ? kept.join(", ") : "not kept";
}
