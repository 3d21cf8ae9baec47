import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { Incident, VersionsView } from "../../api/schema";
import { useMode } from "../../theme/mode";
import { moment, weekday } from "../../shared/dates";
import { size } from "../../shared/words";
import { draw, LANE, type Palette, barAt, TOP, wakeHeight } from "./draw";
import { layout, type TimelineLayout } from "./layout";
import { RunCurve } from "./RunCurve";
import { ticks } from "./time";
import { phrase } from "../../words/phrase";

const NAMES = 178;

function palette(): Palette {
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string) => style.getPropertyValue(`--chakra-colors-${name}`).trim();
  return {
    ink: colour("ink"),
    hairline: colour("hairline"),
    muted: colour("muted"),
    fir: colour("fir"),
    loss: colour("loss"),
    lossWash: colour("loss-wash"),
    raised: colour("raised"),
    ground: colour("ground"),
    caution: colour("caution"),
  };
}

function useWidth() {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [ref, width] as const;
}

function Flag({
  letter,
  x,
  hue,
  bottom,
}: {
  letter: string;
  x: number;
  hue: string;
  bottom: number;
}) {
  return (
    <>
      <Box
        position="absolute"
        left={`${x - 0.5}px`}
        top="28px"
        w="1px"
        h={`${bottom - 28}px`}
        bg={hue}
      />
      <Box
        position="absolute"
        left={`${x - 8}px`}
        top="15px"
        w="16px"
        h="15px"
        bg={hue}
        color="ground"
        fontSize="11px"
        fontWeight="700"
        textAlign="center"
        lineHeight="15px"
        clipPath="polygon(0 0,100% 0,100% 75%,50% 100%,0 75%)"
      >
        {letter}
      </Box>
    </>
  );
}

function Axis({ wake, zone, now }: { wake: TimelineLayout; zone: string; now: number }) {
  const y = TOP + wake.lanes.length * LANE - 4;
  const crash = wake.torn.at(-1);
  const near = (x: number) =>
    x > wake.scale.width - 90 || wake.torn.some((t) => Math.abs(t.x - x) < 56);
  const hour = (time: number) => moment(time, zone, time);
  return (
    <>
      {ticks(wake.scale)
        .filter((t) => !near(t.x))
        .map((t) => (
          <Text
            key={t.time}
            position="absolute"
            left={`${t.x}px`}
            top={`${y}px`}
            transform="translateX(-50%)"
            fontSize="11.5px"
            color="muted"
          >
            {hour(t.time)}
          </Text>
        ))}
      {crash && (
        <Text
          position="absolute"
          left={`${crash.x}px`}
          top={`${y}px`}
          transform="translateX(-50%)"
          fontSize="11.5px"
          fontWeight="650"
          color="loss"
          whiteSpace="nowrap"
        >
          {phrase("versions.crash", { hour: hour(crash.time) })}
        </Text>
      )}
      <Text
        position="absolute"
        right="0"
        top={`${y}px`}
        fontSize="11.5px"
        fontWeight="650"
        whiteSpace="nowrap"
      >
        {phrase("versions.now", { hour: hour(now) })}
      </Text>
    </>
  );
}

function Days({ wake, zone }: { wake: TimelineLayout; zone: string }) {
  return (
    <>
      {wake.scale.pieces
        .filter((p) => p.kind !== "fold" && p.x1 - p.x0 > 70)
        .map((p) => (
          <Text
            key={p.from}
            position="absolute"
            left={`${p.x0 + 4}px`}
            top="-2px"
            fontSize="11.5px"
            color="muted"
            whiteSpace="nowrap"
          >
            {p.kind === "lastHour"
              ? phrase("versions.lastHourWider")
              : weekday(p.from + 600_000, zone)}
          </Text>
        ))}
    </>
  );
}

const LEGEND = [
  ["■", phrase("versions.intact"), "ink"],
  ["⊔", phrase("versions.noFaultFound"), "ink"],
  ["▨", phrase("versions.doubtful"), "caution"],
  ["✕", phrase("versions.damaged"), "loss"],
  ["□", phrase("versions.notChecked"), "ink"],
  ["■", phrase("versions.madeByKavrin"), "fir"],
  ["│", phrase("versions.sameContent"), "muted"],
] as const;

function Legend({ wake }: { wake: TimelineLayout }) {
  return (
    <Flex
      gap="3"
      fontSize="12px"
      color="muted"
      pl="4"
      align="center"
      whiteSpace="nowrap"
      overflow="hidden"
    >
      {LEGEND.map(([sign, what, hue]) => (
        <Text key={what} as="span">
          <Text as="span" color={hue} aria-hidden>
            {sign}{" "}
          </Text>
          {what}
        </Text>
      ))}
      {wake.exposure && (
        <Flex as="span" align="center" gap="1">
          {phrase("versions.notSafeAnywhereElse", {
            sign: (
              <Box
                as="span"
                w="14px"
                h="10px"
                bg="lossWash"
                border="1px solid"
                borderColor="loss"
              />
            ),
          })}
        </Flex>
      )}
      {wake.bars.some((s) => s.copies > 1) && (
        <Text as="span">{phrase("versions.severalCloseTogether")}</Text>
      )}
      {wake.unwatched.length > 0 && <Text as="span">{phrase("versions.nobodyWatched")}</Text>}
      <Text as="span" ml="auto">
        {phrase("versions.fullHeight", { size: size(wake.largest) })}
      </Text>
    </Flex>
  );
}

/** All copies over time, a lane for each place and kind. The table beside it says the same. */
export function Timeline(props: {
  document: string;
  trail: VersionsView;
  incidents: Incident[];
  now: number;
  zone: string;
  a: string;
  b: string;
  chosen: string;
  onChoose: (state: string) => void;
}) {
  const [ref, width] = useWidth();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [mode] = useMode();
  const { trail, incidents, now, chosen } = props;
  const wake = useMemo(
    () => (width > 0 ? layout(trail, incidents, now, width - NAMES - 4) : undefined),
    [trail, incidents, now, width],
  );
  useEffect(() => {
    const element = canvas.current;
    const ctx = element?.getContext("2d");
    if (!element || !ctx || !wake) return;
    const ratio = window.devicePixelRatio;
    element.width = Math.round((wake.scale.width + 2) * ratio);
    element.height = Math.round(wakeHeight(wake.lanes.length) * ratio);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    draw(ctx, wake, palette(), chosen);
  }, [wake, chosen, mode]);

  const xOf = (state: string) => wake?.bars.find((s) => s.state === state)?.x;
  const flags = [
    { letter: "A", x: xOf(props.a), hue: "clay" },
    { letter: "B", x: xOf(props.b), hue: "slate" },
  ];
  const height = wakeHeight(wake?.lanes.length ?? 5);
  const bottom = TOP + (wake?.lanes.length ?? 5) * LANE - 6;
  return (
    <Box ref={ref} px="4" pt="2">
      <Box position="relative" h={`${height}px`}>
        {wake?.lanes.map((lane, i) => (
          <Box
            key={lane.name}
            position="absolute"
            top={`${TOP + i * LANE + 2}px`}
            w={`${NAMES - 12}px`}
          >
            <Text
              fontSize="13px"
              fontWeight="650"
              color={lane.ours ? "fir" : "ink"}
              lineHeight="1.2"
            >
              {lane.name}
            </Text>
            <Text
              fontSize="11px"
              color="muted"
              truncate
              title={lane.under}
              dir="rtl"
              textAlign="left"
            >
              <bdi>{lane.under || phrase("versions.nothingThere")}</bdi>
            </Text>
          </Box>
        ))}
        {wake && (
          <Box
            position="absolute"
            left={`${NAMES}px`}
            top="0"
            w={`${wake.scale.width + 2}px`}
            h={`${height}px`}
          >
            <canvas
              ref={canvas}
              role="img"
              aria-label={phrase("versions.timelineOfCopiesInLanesThe", {
                name: trail.name,
                copies: wake.copies,
                lanes: wake.lanes.length,
              })}
              style={{
                width: `${wake.scale.width + 2}px`,
                height: `${height}px`,
                cursor: "pointer",
              }}
              onClick={(e) => {
                const box = e.currentTarget.getBoundingClientRect();
                const hit = barAt(wake, e.clientX - box.left, e.clientY - box.top);
                if (hit) props.onChoose(hit.state);
              }}
            />
            <Days wake={wake} zone={props.zone} />
            {flags.map(
              (f) =>
                f.x !== undefined && (
                  <Flag key={f.letter} letter={f.letter} x={f.x} hue={f.hue} bottom={bottom} />
                ),
            )}
            <Axis wake={wake} zone={props.zone} now={now} />
          </Box>
        )}
      </Box>
      {wake && trail.states.some((s) => s.step) && (
        <RunCurve document={props.document} scale={wake.scale} names={NAMES} />
      )}
      {wake && <Legend wake={wake} />}
    </Box>
  );
}
