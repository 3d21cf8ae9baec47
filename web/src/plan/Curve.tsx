import { Box } from "@chakra-ui/react";
import { scaleLinear, scaleLog } from "d3-scale";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { age, decimal } from "../shared/words";
import { phrase } from "../words/phrase";

/** Intervals worth dragging over, in seconds. */
export const STOPS = [
  30, 60, 120, 180, 240, 300, 360, 480, 600, 900, 1200, 1800, 2700, 3600, 5400, 7200, 14400,
];
const TICKS = [30, 60, 120, 300, 600, 1200, 3600, 7200, 14400];
const WIDTH = 680;
const HEIGHT = 210;
const LEFT = 56;
const RIGHT = 662;
const TOP = 26;
const BOTTOM = 178;

const across = scaleLog().domain([30, 14400]).range([LEFT, RIGHT]).clamp(true);

/** An interval, in seconds, with what it comes to, in minutes. */
export interface Point {
  interval: number;
  minutes: number;
}

/** Intervals that are good, with the words for it. */
export interface Span {
  from: number;
  to: number;
  words: string;
}

/** The steep ends may leave the picture. */
function upward(points: readonly Point[]) {
  const least = Math.min(...points.map((p) => p.minutes));
  const most = Math.max((valueAt(points, 3600) ?? 0) * 1.1, least * 3);
  return scaleLinear()
    .domain([0, most > 0 ? most : 1])
    .nice(4)
    .range([BOTTOM, TOP]);
}

const nearest = (value: number, stops: number[]) =>
  stops.reduce((a, b) => (Math.abs(Math.log(b / value)) < Math.abs(Math.log(a / value)) ? b : a));

/** Decimals that tell the ticks of an axis apart. */
const places = (step: number) => Math.max(0, Math.ceil(-Math.log10(step) - 0.001));

function Axis({ points }: { points: readonly Point[] }) {
  const y = points.length > 0 ? upward(points) : undefined;
  const marks = y?.ticks(4).filter((t) => t > 0) ?? [];
  const digits = places((marks[1] ?? 1) - (marks[0] ?? 0));
  return (
    <g aria-hidden="true">
      {y &&
        marks.map((t) => (
          <g key={t}>
            <line x1={LEFT} x2={RIGHT} y1={y(t)} y2={y(t)} className="rule" />
            <text x={LEFT - 6} y={y(t) + 4} textAnchor="end">
              {phrase("plan.min", { minutes: decimal(t, digits) })}
            </text>
          </g>
        ))}
      <line x1={LEFT} x2={RIGHT} y1={BOTTOM} y2={BOTTOM} className="base" />
      {TICKS.map((t) => (
        <g key={t}>
          <line x1={across(t)} x2={across(t)} y1={BOTTOM} y2={BOTTOM + 4} className="base" />
          <text x={across(t)} y={BOTTOM + 18} textAnchor="middle">
            {age(t * 1000)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Which intervals are good. */
function Band({ span }: { span: Span }) {
  const [a, b] = [across(span.from), across(span.to)];
  const middle = Math.min(Math.max((a + b) / 2, LEFT + 120), RIGHT - 120);
  return (
    <g aria-hidden="true">
      <rect
        x={a}
        width={Math.max(b - a, 2)}
        y={TOP - 8}
        height={BOTTOM - TOP + 8}
        className="band"
      />
      <text x={middle} y={TOP - 13} textAnchor="middle" className="good">
        {span.words}
      </text>
    </g>
  );
}

function Line({ points }: { points: readonly Point[] }) {
  if (points.length === 0) return null;
  const y = upward(points);
  const drawn = points.map((p) => `${across(p.interval).toFixed(1)},${y(p.minutes).toFixed(1)}`);
  return (
    <g aria-hidden="true" clipPath="url(#within)">
      <polyline points={drawn.join(" ")} className="curve" />
    </g>
  );
}

/** What an interval comes to, between the two points of the curve around it. */
export function valueAt(points: readonly Point[], interval: number): number | undefined {
  const after = points.findIndex((p) => p.interval >= interval);
  const b = points[after];
  if (!b) return points.at(-1)?.minutes;
  const a = points[after - 1];
  if (!a) return b.minutes;
  return (
    a.minutes + ((b.minutes - a.minutes) * (interval - a.interval)) / (b.interval - a.interval)
  );
}

/** Where it stands, for what is set elsewhere. */
function Mark(props: { points: readonly Point[]; interval: number; words: string }) {
  const { points, interval, words } = props;
  const value = valueAt(points, interval);
  if (value === undefined) return null;
  const x = across(interval);
  const y = Math.max(TOP, upward(points)(value));
  return (
    <g aria-hidden="true">
      <line x1={x} x2={x} y1={Math.min(TOP + 22, y)} y2={BOTTOM} className="stem" />
      <text
        x={x > RIGHT - 110 ? x - 8 : x + 8}
        y={Math.min(TOP + 14, y - 12)}
        textAnchor={x > RIGHT - 110 ? "end" : "start"}
        className="yours"
      >
        {words}
      </text>
    </g>
  );
}

function Handle(props: {
  points: readonly Point[];
  interval: number;
  words: string;
  stops: number[];
  onChange: (seconds: number) => void;
  at: (event: PointerEvent) => number;
}) {
  const { points, interval, words, onChange, at, stops } = props;
  const value = valueAt(points, interval);
  const y = value === undefined ? BOTTOM - 14 : Math.max(TOP, upward(points)(value));
  const x = across(interval);
  const index = stops.indexOf(nearest(interval, stops));
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    const next =
      event.key === "Home"
        ? stops[0]
        : event.key === "End"
          ? stops.at(-1)
          : step === undefined
            ? undefined
            : stops[Math.min(Math.max(index + step, 0), stops.length - 1)];
    if (next === undefined) return;
    event.preventDefault();
    onChange(next);
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={phrase("plan.longestTimeFromAChangeTo")}
      aria-valuemin={stops[0]}
      aria-valuemax={stops.at(-1)}
      aria-valuenow={Math.round(interval)}
      aria-valuetext={words}
      onKeyDown={onKey}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (e.currentTarget.hasPointerCapture(e.pointerId)) onChange(nearest(at(e), stops));
      }}
    >
      <rect x={x - 14} width={28} y={TOP - 8} height={BOTTOM - TOP + 8} className="grip" />
      <line x1={x} x2={x} y1={Math.min(TOP + 22, y)} y2={BOTTOM} className="stem" />
      <rect x={x - 6} y={y - 6} width={12} height={12} rx={3} className="knob" />
      <text
        x={x > RIGHT - 110 ? x - 10 : x + 10}
        y={Math.min(TOP + 14, y - 12)}
        textAnchor={x > RIGHT - 110 ? "end" : "start"}
        className="yours"
      >
        {words}
      </text>
    </g>
  );
}

const STYLE = {
  "& text": { fill: "muted", fontSize: "12px" },
  "& .rule": { stroke: "hairline" },
  "& .base": { stroke: "muted" },
  "& .band": { fill: "firWash" },
  "& .good": { fill: "fir", fontWeight: 650 },
  "& .curve": { fill: "none", stroke: "ink", strokeWidth: 2 },
  "& .stem": { stroke: "ink", strokeWidth: 1.5 },
  "& .knob": { fill: "ink" },
  "& .yours": { fill: "ink", fontWeight: 650, fontSize: "13px" },
  "& .grip": { fill: "transparent", cursor: "ew-resize" },
  "& [role=slider]": { touchAction: "none" },
} as const;

/** What each interval comes to; the handle sets it, if it may be set here. */
export function Curve(props: {
  points: readonly Point[];
  span?: Span | undefined;
  interval: number | undefined;
  words: string;
  /** Intervals it may be dragged to, in seconds, rising. */
  stops?: number[];
  onChange?: (seconds: number) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const { points, span, interval, words, stops, onChange } = props;
  const at = (event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    return box ? across.invert(((event.clientX - box.left) / box.width) * WIDTH) : 600;
  };
  return (
    <Box asChild w="100%" maxW="860px" css={STYLE}>
      <svg ref={svg} viewBox={`0 0 ${WIDTH} ${HEIGHT}`}>
        <clipPath id="within">
          <rect x={LEFT} y={TOP} width={RIGHT - LEFT} height={BOTTOM - TOP} />
        </clipPath>
        {span && <Band span={span} />}
        <Axis points={points} />
        <Line points={points} />
        {interval !== undefined &&
          (onChange && stops ? (
            <Handle {...{ points, interval, words, stops, onChange, at }} />
          ) : (
            <Mark {...{ points, interval, words }} />
          ))}
      </svg>
    </Box>
  );
}
