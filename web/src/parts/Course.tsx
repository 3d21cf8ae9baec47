import { Box, Flex, Text } from "@chakra-ui/react";
import type { SeriesView } from "../api/schema";
import { value } from "../compare/PartList";
import { phrase } from "../words/phrase";

const W = 352;
const H = 120;

/** A line for each measure, told apart by its dashes too. */
export const DASHES = ["none", "5 3", "2 3"];

/** Pieces of a line, broken where there is no value; xOf tells where the i-th stands. */
export function pathOf(
  values: (number | undefined)[],
  from: number,
  to: number,
  xOf: (i: number) => number,
  height: number,
): string {
  let open = false;
  return values
    .map((v, i) => {
      if (v === undefined || !Number.isFinite(v)) {
        open = false;
        return "";
      }
      const y = to > from ? height - ((v - from) / (to - from)) * height : height / 2;
      const piece = `${open ? "L" : "M"}${xOf(i).toFixed(1)},${y.toFixed(1)}`;
      open = true;
      return piece;
    })
    .join("");
}

/** What each line is, by its dashes. */
export const legend = (series: SeriesView[]): string =>
  series.map((s, i) => `${["──", "╌╌", "┄┄"][i % 3] ?? ""} ${s.name}`).join("   ");

/** The values, and the least and the largest of them; from is above to if there are none. */
export function reach(series: SeriesView[]) {
  const lines = series.map((s) => s.values.map((v: number | null) => v ?? undefined));
  const all = lines.flat().filter((v) => v !== undefined && Number.isFinite(v)) as number[];
  return {
    lines,
    from: all.reduce((x, y) => Math.min(x, y), Infinity),
    to: all.reduce((x, y) => Math.max(x, y), -Infinity),
  };
}

/** How a field or a setting went from state to state. */
export function Course({ series }: { series: SeriesView[] }) {
  const { lines, from, to } = reach(series);
  if (from > to) return null;
  const unit = series[0]?.unit ?? "";
  return (
    <Box mt="3">
      <Flex justify="space-between" fontSize="11.5px" color="muted">
        <Text fontFamily="mono">{value(to, unit)}</Text>
        <Text>{phrase("parts.oldestVersionToNewest")}</Text>
      </Flex>
      <svg
        width={W}
        height={H}
        role="img"
        aria-label={phrase("parts.overAllVersionsFromTo", {
          series: series.map((s) => s.name).join(", "),
          least: value(from, unit),
          most: value(to, unit),
        })}
      >
        <line x1="0" x2={W} y1={H} y2={H} stroke="var(--chakra-colors-hairline)" />
        {lines.map((values, i) => (
          <path
            key={series[i]?.name}
            d={pathOf(values, from, to, (x) => (x / Math.max(1, values.length - 1)) * W, H - 2)}
            fill="none"
            stroke="var(--chakra-colors-ink)"
            strokeWidth="1.5"
            strokeDasharray={DASHES[i % DASHES.length]}
          />
        ))}
      </svg>
      <Flex justify="space-between" fontSize="11.5px" color="muted">
        <Text fontFamily="mono">{value(from, unit)}</Text>
        <Text>{legend(series)}</Text>
      </Flex>
    </Box>
  );
}
