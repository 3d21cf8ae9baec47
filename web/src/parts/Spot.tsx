import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { FillerView, GroundView } from "../api/schema";
import { useSpot } from "../api/parts";
import { Failure, Key } from "../shared/parts";
import { useSize } from "../shared/useSize";
import { moment } from "../shared/dates";
import { moved, SHAPE, type Place, within } from "./place";
import { phrase } from "../words/phrase";

function Cross({ place, width }: { place: Place; width: number }) {
  const x = place.x * width;
  const y = place.y * (width / SHAPE);
  return (
    <svg
      width={width}
      height={width / SHAPE}
      aria-hidden
      style={{ position: "absolute", inset: 0, pointerEvents: "none" }}
    >
      {[3, 1.2].map((thick, i) => (
        <g
          key={thick}
          stroke={i === 0 ? "var(--chakra-colors-ground)" : "var(--chakra-colors-ink)"}
          strokeWidth={thick}
          fill="none"
        >
          <line x1={x - 16} x2={x - 5} y1={y} y2={y} />
          <line x1={x + 5} x2={x + 16} y1={y} y2={y} />
          <line x1={x} x2={x} y1={y - 16} y2={y - 5} />
          <line x1={x} x2={x} y1={y + 5} y2={y + 16} />
          <circle cx={x} cy={y} r="5" />
        </g>
      ))}
    </svg>
  );
}

function Fillers(props: {
  fillers: FillerView[];
  title: string;
  chosen: number | undefined;
  zone: string;
  now: number;
  onChoose: (part: number) => void;
}) {
  if (props.fillers.length === 0) return null;
  return (
    <Box>
      <Text fontSize="12px" color="muted" px="3" pt="2">
        {props.title} · {props.fillers.length}
      </Text>
      {props.fillers.map((f) => (
        <Flex
          as="button"
          key={f.id}
          w="100%"
          textAlign="left"
          align="baseline"
          gap="3"
          px="3"
          py="1"
          aria-pressed={f.id === props.chosen}
          bg={f.id === props.chosen ? "raised" : undefined}
          boxShadow={f.id === props.chosen ? "inset 3px 0 0 var(--chakra-colors-ink)" : undefined}
          onClick={() => props.onChoose(f.id)}
        >
          <Text as="span" flex="1" minW="0" truncate color={f.there ? "ink" : "loss"}>
            {f.label}
          </Text>
          {!f.now && (
            <Text as="span" fontSize="12px" color="muted" whiteSpace="nowrap">
              {phrase("parts.until", { moment: moment(f.work, props.zone, props.now) })}
            </Text>
          )}
        </Flex>
      ))}
    </Box>
  );
}

/** The newest picture, to point at a spot of it, and all that ever filled that spot. */
export function Spot(props: {
  document: string;
  ground: GroundView;
  chosen: number | undefined;
  zone: string;
  now: number;
  onChoose: (part: number) => void;
}) {
  const { ground, onChoose } = props;
  const [ref, room] = useSize();
  const picture = useRef<HTMLDivElement>(null);
  const [cross, setCross] = useState<Place>({ x: 0.5, y: 0.5 });
  const [asked, setAsked] = useState<Place>();
  const spot = useSpot(props.document, asked);
  const width = Math.floor(within(room));
  const fillers = spot.data?.fillers;
  const first = (fillers?.find((f) => !f.now) ?? fillers?.[0])?.id;
  const drawn = width > 0;
  useEffect(() => {
    if (drawn) picture.current?.focus();
  }, [drawn]);
  useEffect(() => {
    if (first !== undefined) onChoose(first);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each answer
  }, [spot.data]);
  const same = { chosen: props.chosen, zone: props.zone, now: props.now, onChoose };
  return (
    <Flex direction="column" flex="1" minH="0">
      <Box ref={ref} flex="1" minH="120px" mx="3" overflow="hidden" position="relative">
        {drawn && (
          <Box
            ref={picture}
            position="absolute"
            w={`${width}px`}
            h={`${width / SHAPE}px`}
            bg="raised"
            tabIndex={0}
            role="application"
            aria-roledescription={phrase("parts.pictureToPointAt")}
            aria-label={phrase("parts.theNewestVersionTheCrossIs", {
              left: Math.round(cross.x * 100),
              top: Math.round(cross.y * 100),
            })}
            cursor="crosshair"
            onKeyDown={(e) => {
              const to = moved(cross, e.key, e.shiftKey);
              if (to) setCross(to);
              if (e.key === "Enter") setAsked(cross);
              if (to ?? e.key === "Enter") e.preventDefault();
            }}
            onClick={(e) => {
              const box = e.currentTarget.getBoundingClientRect();
              const at = {
                x: (e.clientX - box.left) / box.width,
                y: (e.clientY - box.top) / box.height,
              };
              setCross(at);
              setAsked(at);
            }}
          >
            <img
              src={`/api/contents/${ground.content}/picture?large=true`}
              alt=""
              width={width}
              height={width / SHAPE}
            />
            <Cross place={cross} width={width} />
          </Box>
        )}
      </Box>
      <Box h="168px" overflow="auto" fontSize="13px" aria-live="polite">
        {!asked && (
          <Text px="3" pt="2">
            {phrase("parts.clickWhereSomethingUsedToBe")}
            <Key>⇧</Key> {phrase("parts.furtherAndPress")} <Key>{phrase("parts.enter")}</Key>.
          </Text>
        )}
        {asked && spot.isFetching && (
          <Text px="3" pt="2" color="muted">
            {phrase("parts.lookingThroughAllVersions")}
          </Text>
        )}
        {spot.isError && <Failure error={spot.error} />}
        {fillers?.length === 0 && (
          <Text px="3" pt="2">
            {phrase("parts.nothingEverWasThereInAny")}
          </Text>
        )}
        {fillers && (
          <>
            <Fillers
              {...same}
              title={phrase("parts.usedToBeHere")}
              fillers={fillers.filter((f) => !f.now)}
            />
            <Fillers
              {...same}
              title={phrase("parts.hereNow")}
              fillers={fillers.filter((f) => f.now)}
            />
          </>
        )}
        {spot.data?.all === false && (
          <Text px="3" pt="1" color="caution">
            {phrase("parts.notEveryOlderVersionWasLooked")}
          </Text>
        )}
      </Box>
    </Flex>
  );
}
