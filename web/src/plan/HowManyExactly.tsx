import type { Counts } from "../api/schema";
import { duration, seconds } from "../shared/words";
import { Number, Setting } from "../shared/fields";
import { phrase } from "../words/phrase";
import { Row } from "./Row";

const DAY = 86_400;
const GB = 1e9;

export function Keep({
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
