import { Box, Table, Text } from "@chakra-ui/react";
import { scaleTime } from "d3-scale";
import type { AdviceAnswer, Replayed, Sitting } from "../api/schema";
import { dayKey, moment } from "../shared/dates";
import { age, count, seconds, size } from "../shared/words";
import { worked } from "./Advice";
import { phrase } from "../words/phrase";

const WIDTH = 680;
const LEFT = 4;
const RIGHT = 662;
const BASE = 40;

/** A plan that was replayed, with the words it goes by. */
interface Told {
  words: string;
  replayed: Replayed;
}

const lostWords = (iso: string) => age(seconds(iso) * 1000);

/** Hours worked by day, from the sittings. */
function byDay(sittings: Sitting[], zone: string): Map<string, number> {
  const days = new Map<string, number>();
  for (const s of sittings) {
    const day = dayKey(s.from, zone);
    const hours = (new Date(s.to).getTime() - new Date(s.from).getTime()) / 3_600_000;
    days.set(day, (days.get(day) ?? 0) + hours);
  }
  return days;
}

const DAY = 86_400_000;

function Strip({ answer, zone, now }: { answer: AdviceAnswer; zone: string; now: number }) {
  const from = new Date(answer.since ?? now).getTime();
  const x = scaleTime()
    .domain([new Date(from - DAY / 2), new Date(Math.max(now, from + DAY))])
    .range([LEFT, RIGHT]);
  const days = [...byDay(answer.sittings, zone)];
  const most = Math.max(1, ...days.map(([, hours]) => hours));
  const bar = Math.max(2, Math.min(10, x(new Date(from + DAY)) - x(new Date(from)) - 2));
  const losses = answer.replays[0]?.losses ?? [];
  return (
    <Box asChild w="100%" maxW="860px" css={{ "& text": { fill: "loss", fontSize: "11px" } }}>
      <svg viewBox={`0 0 ${WIDTH} 66`} aria-hidden="true">
        <Box asChild fill="fir">
          <g>
            {days.map(([day, hours]) => (
              <rect
                key={day}
                x={x(new Date(`${day}T12:00:00`)) - bar / 2}
                width={bar}
                y={BASE - 4 - (hours / most) * 24}
                height={4 + (hours / most) * 24}
              />
            ))}
          </g>
        </Box>
        <Box asChild stroke="hairline">
          <line x1={LEFT} x2={RIGHT} y1={BASE} y2={BASE} />
        </Box>
        {losses.map((loss, i) => {
          const at = x(new Date(loss.at));
          return (
            <g key={loss.at}>
              <Box asChild stroke="loss" strokeWidth="1.5" fill="none">
                <path d={`M${at} 6 l3 8 l-6 6 l6 6 l-3 ${BASE - 26}`} />
              </Box>
              <text
                x={Math.min(Math.max(at, 24), RIGHT - 20)}
                y={i % 2 === 0 ? BASE + 13 : BASE + 25}
                textAnchor="middle"
              >
                {loss.watched ? lostWords(loss.lost) : phrase("plan.nobodyWatched")}
              </text>
            </g>
          );
        })}
      </svg>
    </Box>
  );
}

/** "5 crashes, the file lost each time: your plan would have cost 60 min of work …" */
function sentence(all: Told[]): string {
  const [mine, ...others] = all;
  if (!mine) return "";
  const n = mine.replayed.losses.filter((l) => l.watched).length;
  if (n === 0) return phrase("plan.noCrashFellIntoTheTime");
  const first = phrase("plan.wouldHaveCostOfWork", {
    crashes: phrase("plan.crashesTheFileLostEachTime", { n }),
    plan: mine.words,
    lost: lostWords(mine.replayed.lost),
  });
  return [first, ...others.map((o) => against(o, mine))].join("; ");
}

function against(other: Told, mine: Told): string {
  const more = other.replayed.copies - mine.replayed.copies;
  const copies =
    more === 0
      ? phrase("plan.noMore")
      : `${Math.abs(more)} ${more > 0 ? phrase("plan.more2") : phrase("plan.fewer")}`;
  return phrase("plan.wouldHaveCostWithCopies", {
    words: other.words,
    lost: lostWords(other.replayed.lost),
    copies,
  });
}

function Twin({ all, zone, now }: { all: Told[]; zone: string; now: number }) {
  const losses = all[0]?.replayed.losses ?? [];
  return (
    <Table.Root size="sm" mt="2" fontSize="13px">
      <Table.Header>
        <Table.Row bg="transparent">
          <Table.ColumnHeader>{phrase("plan.crash")}</Table.ColumnHeader>
          {all.map((t) => (
            <Table.ColumnHeader key={t.words} textAlign="end">
              {t.words}
            </Table.ColumnHeader>
          ))}
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {losses.map((loss, i) => (
          <Table.Row key={loss.at} bg="transparent">
            <Table.Cell>
              {moment(loss.at, zone, now)}
              {!loss.watched && phrase("plan.nobodyWatchedLeftOut")}
            </Table.Cell>
            {all.map((t) => {
              const own = t.replayed.losses[i];
              return (
                <Table.Cell key={t.words} textAlign="end">
                  {own
                    ? phrase("plan.backupsStood", { lost: lostWords(own.lost), copies: own.copies })
                    : ""}
                </Table.Cell>
              );
            })}
          </Table.Row>
        ))}
        {(
          [
            [phrase("plan.workLost"), (r: Replayed) => lostWords(r.lost)],
            [phrase("plan.backupsMade"), (r: Replayed) => String(r.copies)],
            [phrase("plan.written"), (r: Replayed) => size(r.written)],
            [phrase("plan.mostRoom"), (r: Replayed) => size(r.peak)],
          ] as const
        ).map(([name, value]) => (
          <Table.Row key={name} bg="transparent">
            <Table.Cell color="muted">{name}</Table.Cell>
            {all.map((t) => (
              <Table.Cell key={t.words} textAlign="end">
                {value(t.replayed)}
              </Table.Cell>
            ))}
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  );
}

/** What the plan at hand, the one as set and the proposed one would have meant so far. */
export function Replays(props: {
  answer: AdviceAnswer;
  words: string[];
  zone: string;
  now: number;
}) {
  const { answer, words, zone, now } = props;
  if (answer.since === undefined) {
    return (
      <Text color="muted" fontSize="13px" py="3">
        {phrase("plan.onceSomeWritesWereSeenThis")}
      </Text>
    );
  }
  const all = answer.replays.map((replayed, i) => ({ words: words[i] ?? "", replayed }));
  if (answer.proposed && answer.advice.proposal) {
    const { plan } = answer.advice.proposal;
    const apart = answer.advice.step
      ? count(plan.everySteps, "step")
      : age(seconds(plan.interval) * 1000);
    all.push({ words: phrase("plan.theProposed", { apart }), replayed: answer.proposed });
  }
  const total = answer.sittings.reduce(
    (sum, s) => sum + (new Date(s.to).getTime() - new Date(s.from).getTime()),
    0,
  );
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline">
      <Text fontSize="14px" fontWeight="650">
        {phrase("plan.yourWorkSinceReplayedWithThis", { moment: moment(answer.since, zone, now) })}
      </Text>
      <Strip answer={answer} zone={zone} now={now} />
      <Text fontSize="13px">{sentence(all)}.</Text>
      <Text fontSize="12px" color="muted">
        {phrase("plan.ofWorkSeenExactWhereKavrin", {
          worked: worked(`PT${Math.round(total / 1000)}S`),
          unwatched:
            answer.unwatched > 0 &&
            phrase("plan.crashesNobodyWatchedAreNotCounted", { unwatched: answer.unwatched }),
        })}
      </Text>
      <Box asChild mt="1">
        <details>
          <Box asChild fontSize="13px" color="muted" cursor="pointer">
            <summary>{phrase("plan.eachCrashAndWhatEachPlan")}</summary>
          </Box>
          <Twin all={all} zone={zone} now={now} />
        </details>
      </Box>
    </Box>
  );
}
