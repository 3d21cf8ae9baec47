import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useRef } from "react";
import type { ComparisonView, Slice } from "../api/schema";
import { Failure, Loading } from "../shared/parts";
import { hues } from "../theme/hues";
import { useMode } from "../theme/mode";
import { value } from "./PartList";
import { gridDifference, histogram, numbersOf, reach } from "./difference";
import { usePlane } from "./Sheets";
import { phrase } from "../words/phrase";

type Rgb = [number, number, number];

/** From low to high, told apart by lightness alone too. */
const RAMP: Rgb[] = [
  [0x16, 0x28, 0x3a],
  [0x2e, 0x4f, 0x66],
  [0x6b, 0x7f, 0x72],
  [0xb7, 0x9f, 0x5b],
  [0xf3, 0xde, 0x9a],
];

/** A higher than B in A's hue, B higher in B's, the same pale. */
const APART: Rgb[] = [
  [0xa3, 0x4a, 0x22],
  [0xf5, 0xf2, 0xea],
  [0x3a, 0x5e, 0x7e],
];

const NO_NUMBER: Rgb = [0xb3, 0x26, 0x1e];

function shade(ramp: Rgb[], t: number): Rgb {
  if (!Number.isFinite(t)) return NO_NUMBER;
  const at = Math.min(1, Math.max(0, t)) * (ramp.length - 1);
  const step = Math.min(ramp.length - 2, Math.floor(at));
  const from = ramp[step] ?? NO_NUMBER;
  const to = ramp[step + 1] ?? NO_NUMBER;
  return [0, 1, 2].map((k) =>
    Math.round((from[k] ?? 0) + ((to[k] ?? 0) - (from[k] ?? 0)) * (at - step)),
  ) as Rgb;
}

const css = (ramp: Rgb[]) =>
  `linear-gradient(to right, ${ramp.map((c) => `rgb(${c.join(",")})`).join(", ")})`;

function Legend(props: { ramp: Rgb[]; from: number; to: number; unit: string }) {
  return (
    <Flex align="center" gap="2" fontSize="11.5px" color="muted" fontFamily="mono">
      {value(props.from, props.unit)}
      <Box flex="1" h="8px" style={{ background: css(props.ramp) }} />
      {value(props.to, props.unit)}
    </Flex>
  );
}

function Map(props: {
  title: string;
  hue: string;
  slice: Slice;
  values: number[];
  ramp: Rgb[];
  from: number;
  to: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { slice, values, ramp, from, to } = props;
  useEffect(() => {
    const element = canvas.current;
    const ctx = element?.getContext("2d");
    if (!element || !ctx) return;
    element.width = slice.columns;
    element.height = slice.rows;
    const image = ctx.createImageData(slice.columns, slice.rows);
    values.forEach((v, i) => {
      const colour = shade(ramp, to > from ? (v - from) / (to - from) : Number.isFinite(v) ? 0 : v);
      image.data.set([...colour, 255], i * 4);
    });
    ctx.putImageData(image, 0, 0);
  }, [slice, values, ramp, from, to]);
  return (
    <Flex direction="column" minH="0" minW="0" gap="1">
      <Text fontSize="13px" fontWeight="650" color={props.hue}>
        {props.title}
      </Text>
      <Box flex="1" minH="0">
        <canvas
          ref={canvas}
          role="img"
          aria-label={phrase("compare.to", {
            title: props.title,
            name: slice.name,
            least: value(from, slice.unit),
            most: value(to, slice.unit),
          })}
          style={{
            width: "100%",
            height: "100%",
            objectFit: "contain",
            imageRendering: "pixelated",
          }}
        />
      </Box>
      <Legend ramp={ramp} from={from} to={to} unit={slice.unit} />
    </Flex>
  );
}

/** How often which values occur: A as an outline with dashes, B filled. */
function Histogram({ a, b, unit }: { a: number[]; b: number[]; unit: string }) {
  const [mode] = useMode();
  const hue = useMemo(() => ({ ...hues(), mode }), [mode]);
  const found = useMemo(() => histogram(a, b), [a, b]);
  const most = Math.max(1, ...found.a, ...found.b);
  const bins = found.a.length;
  const y = (n: number) => 100 - (n / most) * 96;
  const outline = found.a
    .map(
      (n, i) =>
        `${i === 0 ? "M" : "L"}${(i / bins) * 100},${y(n)} L${((i + 1) / bins) * 100},${y(n)}`,
    )
    .join(" ");
  return (
    <Flex direction="column" minH="0" gap="1">
      <Text fontSize="13px" fontWeight="650">
        {phrase("compare.howOftenWhichValuesOccur")}
      </Text>
      <Box flex="1" minH="0">
        <svg
          viewBox="0 0 100 100"
          preserveAspectRatio="none"
          width="100%"
          height="100%"
          role="img"
          aria-label={phrase("compare.histogramOfBothFields")}
        >
          {found.b.map((n, i) => (
            <rect
              key={i}
              x={(i / bins) * 100}
              width={100 / bins - 0.3}
              y={y(n)}
              height={100 - y(n)}
              fill={hue.b}
              opacity="0.6"
            />
          ))}
          <path
            d={outline}
            fill="none"
            stroke={hue.a}
            strokeWidth="1.6"
            strokeDasharray="4 2"
            vectorEffect="non-scaling-stroke"
          />
        </svg>
      </Box>
      <Flex justify="space-between" fontSize="11.5px" color="muted" fontFamily="mono">
        <span>{value(found.from, unit)}</span>
        <Text as="span" fontFamily="body">
          <Text as="span" color="clay">
            ┄ A
          </Text>{" "}
          <Text as="span" color="slate">
            ■ B
          </Text>
        </Text>
        <span>{value(found.to, unit)}</span>
      </Flex>
    </Flex>
  );
}

function Both({ a, b }: { a: Slice; b: Slice }) {
  const inA = useMemo(() => numbersOf(a), [a]);
  const inB = useMemo(() => numbersOf(b), [b]);
  const apart = useMemo(() => gridDifference(a, b), [a, b]);
  const finite = [...inA, ...inB].filter(Number.isFinite);
  const from = finite.reduce((x, y) => Math.min(x, y), Infinity);
  const to = finite.reduce((x, y) => Math.max(x, y), -Infinity);
  const most = apart ? reach(apart) : 0;
  return (
    <Grid
      templateColumns="1fr 1fr"
      templateRows="1fr 1fr"
      gap="4"
      p="3"
      h="100%"
      minH="0"
      data-state="shown"
    >
      <Map
        title={`A, ${a.name}`}
        hue="clay"
        slice={a}
        values={inA}
        ramp={RAMP}
        from={from}
        to={to}
      />
      <Map
        title={`B, ${b.name}`}
        hue="slate"
        slice={b}
        values={inB}
        ramp={RAMP}
        from={from}
        to={to}
      />
      {apart ? (
        <Map title="B − A" hue="ink" slice={b} values={apart} ramp={APART} from={-most} to={most} />
      ) : (
        <Text fontSize="13px" color="muted">
          {phrase("compare.theirGridsDifferSoTheyCannot")}
        </Text>
      )}
      <Histogram a={inA} b={inB} unit={b.unit} />
    </Grid>
  );
}

/** Two fields as maps on one scale, what is between them, and how often which values occur. */
export function Maps({ comparison }: { comparison: ComparisonView }) {
  const a = usePlane(comparison.contentA);
  const b = usePlane(comparison.contentB);
  if (a.isPending || b.isPending) return <Loading what={phrase("compare.drawing")} />;
  if (!a.data || !b.data) return <Failure error={a.error ?? b.error} />;
  if (!a.data.grid || !b.data.grid) {
    return (
      <Text p="4" color="muted" fontSize="13px">
        {phrase("compare.thereIsNoPlaneFieldIn")}
      </Text>
    );
  }
  return <Both a={a.data.grid} b={b.data.grid} />;
}
