import { Flex, Text } from "@chakra-ui/react";
import type { Plan as PlanRecord, PlanAnswer } from "../api/schema";
import { useSession } from "../api/queries";
import { Number, Setting } from "../shared/fields";
import { useNow } from "../shared/useNow";
import { Why } from "../shared/Why";
import { moment } from "../shared/dates";
import { duration, seconds, size, decimal } from "../shared/words";
import { phrase } from "../words/phrase";

const HOUR = 3_600;

const GUARD: Record<NonNullable<PlanAnswer["lastKept"]>["guard"], string> = {
  CLONE: phrase("plan.byACloneOfTheFile"),
  SECOND_NAME: phrase("plan.underASecondNameSinceIts"),
  COPY: phrase("plan.byACopySinceItsProgram"),
};

/** What was kept last, and how long nothing guarded it. */
function LastKept({ last }: { last: NonNullable<PlanAnswer["lastKept"]> }) {
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow();
  return (
    <Text fontSize="12px" color="muted" wordBreak="break-word">
      {phrase("plan.theLastOneOfWasSafe", {
        file: last.file.slice(last.file.lastIndexOf("/") + 1),
        moment: moment(last.written, zone, now),
        size: size(last.size),
        seconds: decimal(seconds(last.open), 1),
        guard: GUARD[last.guard],
      })}
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
      name={phrase("plan.autosaves")}
      under={phrase("plan.andWhateverElseItsProgramProfile")}
    >
      <Flex w="100%" align="center" gap="1.5" wrap="wrap">
        {phrase("plan.theLastAndTheLastOf", {
          number: (
            <Number
              label={phrase("plan.autosavesToKeep")}
              value={counts.newest}
              min={0}
              max={1000}
              onChange={(n) => change({ newest: Math.round(n) })}
            />
          ),
          number2: (
            <Number
              label={phrase("plan.hoursOfHourlyAutosaves")}
              value={seconds(counts.hourly) / HOUR}
              min={0}
              max={720}
              onChange={(n) => change({ hourly: duration(Math.round(n * HOUR)) })}
            />
          ),
        })}
      </Flex>
      {figures && (
        <Text fontSize="12px">
          {figures.room > 0
            ? phrase("plan.upToOfRoomWrittenAn", {
                size: size(figures.room),
                size2: size(figures.loadPerHour),
              })
            : figures.why.filled}{" "}
          <Why why={figures.why} name={phrase("plan.roomOfAutosaves")} />
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
    counts.newest > 0 && phrase("plan.theLast", { newest: counts.newest }),
    hours > 0 && phrase("plan.oneAnHourForH", { hours }),
  ].filter(Boolean);
  return kept.length > 0 ? kept.join(", ") : phrase("plan.notKept");
}
