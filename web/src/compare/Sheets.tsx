import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api } from "../api/client";
import type { ComparisonView, Plane } from "../api/schema";
import { useMode } from "../theme/mode";
import { Failure, Loading, Side } from "../shared/parts";
import { useSize } from "../shared/useSize";
import { hues } from "../theme/hues";
import { lineDifference, type LineDifference, type Pieces } from "./difference";
import { Edge, Look, type LookName } from "./Look";
import { phrase } from "../words/phrase";

export const usePlane = (content: string) =>
  useQuery({
    queryKey: ["plane", content],
    queryFn: async () => {
      const answer = await api.GET("/api/contents/{content}/plane", {
        params: { path: { content } },
      });
      return answer.data ?? null;
    },
    staleTime: Infinity,
    retry: false,
  });

/** How much larger than the whole sheet, and how far from its middle in its own unit. */
interface View {
  zoom: number;
  x: number;
  y: number;
}

const WHOLE: View = { zoom: 1, x: 0, y: 0 };

interface Placed {
  scale: number;
  x: number;
  y: number;
}

const MARGIN = 16;

function placed(box: LineDifference["box"], width: number, height: number, view: View): Placed {
  const across = Math.max(box[2] - box[0], 1e-9);
  const along = Math.max(box[3] - box[1], 1e-9);
  const scale = Math.min((width - 2 * MARGIN) / across, (height - 2 * MARGIN) / along);
  return {
    scale: scale * view.zoom,
    x: (box[0] + box[2]) / 2 + view.x,
    y: (box[1] + box[3]) / 2 + view.y,
  };
}

function stroke(
  ctx: CanvasRenderingContext2D,
  pieces: Pieces,
  view: Placed,
  w: number,
  h: number,
  how: { colour: string; width: number; dash: number[] },
) {
  ctx.strokeStyle = how.colour;
  ctx.lineWidth = how.width;
  ctx.setLineDash(how.dash);
  ctx.beginPath();
  for (let i = 0; i < pieces.length; i += 4) {
    ctx.moveTo(
      w / 2 + ((pieces[i] ?? 0) - view.x) * view.scale,
      h / 2 - ((pieces[i + 1] ?? 0) - view.y) * view.scale,
    );
    ctx.lineTo(
      w / 2 + ((pieces[i + 2] ?? 0) - view.x) * view.scale,
      h / 2 - ((pieces[i + 3] ?? 0) - view.y) * view.scale,
    );
  }
  ctx.stroke();
}

/** One sheet of line work; what only A has is dashed, what only B has is thick. */
function Sheet(props: {
  difference: LineDifference;
  show: "both" | "a" | "b";
  view: View;
  onView: (view: View) => void;
  name: string;
}) {
  const [holder, size] = useSize();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [mode] = useMode();
  const { difference, show } = props;
  const view = placed(difference.box, size.width, size.height, props.view);
  useEffect(() => {
    const element = canvas.current;
    const ctx = element?.getContext("2d");
    if (!element || !ctx || size.width === 0) return;
    const ratio = window.devicePixelRatio;
    element.width = Math.round(size.width * ratio);
    element.height = Math.round(size.height * ratio);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    ctx.clearRect(0, 0, size.width, size.height);
    const hue = hues();
    const draw = (pieces: Pieces, how: Parameters<typeof stroke>[5]) =>
      stroke(ctx, pieces, view, size.width, size.height, how);
    draw(difference.same, { colour: hue.same, width: 1, dash: [] });
    if (show !== "b") draw(difference.onlyA, { colour: hue.a, width: 1.6, dash: [6, 4] });
    if (show !== "a") draw(difference.onlyB, { colour: hue.b, width: 2.2, dash: [] });
  }, [difference, show, view.scale, view.x, view.y, size.width, size.height, mode]); // eslint-disable-line react-hooks/exhaustive-deps -- the view by its numbers
  const drag = useRef<{ x: number; y: number; view: View } | undefined>(undefined);
  const zoom = (by: number) => props.onView({ ...props.view, zoom: props.view.zoom * by });
  return (
    <Box
      ref={holder}
      position="relative"
      w="100%"
      h="100%"
      bg="raised"
      overflow="hidden"
      role="img"
      aria-label={props.name}
      data-state={size.width > 0 ? "shown" : "loading"}
      cursor="grab"
      onWheel={(e) => zoom(e.deltaY < 0 ? 1.15 : 1 / 1.15)}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { x: e.clientX, y: e.clientY, view: props.view };
      }}
      onPointerMove={(e) => {
        const from = drag.current;
        if (!from) return;
        props.onView({
          zoom: from.view.zoom,
          x: from.view.x - (e.clientX - from.x) / view.scale,
          y: from.view.y + (e.clientY - from.y) / view.scale,
        });
      }}
      onPointerUp={() => (drag.current = undefined)}
    >
      <canvas ref={canvas} style={{ width: "100%", height: "100%", position: "absolute" }} />
    </Box>
  );
}

function Told({ difference, all }: { difference: LineDifference; all: boolean }) {
  const n = (pieces: Pieces) => pieces.length / 4;
  return (
    <Flex gap="4" fontSize="12px" color="muted" align="center" whiteSpace="nowrap">
      <Text as="span">
        {phrase("compare.onlyInA2", {
          sign: (
            <Text as="span" color="clay" fontWeight="700">
              ┄┄
            </Text>
          ),
          n: n(difference.onlyA),
        })}
      </Text>
      <Text as="span">
        {phrase("compare.onlyInB2", {
          sign: (
            <Text as="span" color="slate" fontWeight="700">
              ━━
            </Text>
          ),
          n: n(difference.onlyB),
        })}
      </Text>
      <Text as="span">{phrase("compare.theSame3", { n: n(difference.same) })}</Text>
      {!all && (
        <Text as="span" color="caution">
          {phrase("compare.notAllLinesAreDrawn")}
        </Text>
      )}
    </Flex>
  );
}

function Drawn(props: { a: Plane; b: Plane; tolerance: number; chosen: string | undefined }) {
  const [look, setLook] = useState<LookName>("over");
  const [view, setView] = useState(WHOLE);
  const { a, b, tolerance } = props;
  const layer = [...a.layers, ...b.layers].some((l) => l.name === props.chosen)
    ? props.chosen
    : undefined;
  const difference = useMemo(
    () => lineDifference(a, b, tolerance, layer),
    [a, b, tolerance, layer],
  );
  const sheet = (show: "both" | "a" | "b") => (
    <Sheet
      difference={difference}
      show={show}
      view={view}
      onView={setView}
      name={
        show === "both"
          ? phrase("compare.bothDrawingsOverEachOther")
          : phrase("compare.drawingWhatOnlyItHasStanding", { letter: show.toUpperCase() })
      }
    />
  );
  return (
    <Flex direction="column" h="100%" minH="0">
      <Box flex="1" minH="0">
        <Edge look={look} over={sheet("both")} a={sheet("a")} b={sheet("b")} />
      </Box>
      <Look look={look} onLook={setLook}>
        <Told difference={difference} all={a.all && b.all} />
        <Side size="xs" ml="auto" onClick={() => setView({ ...view, zoom: view.zoom * 1.4 })}>
          {phrase("compare.larger")}
        </Side>
        <Side size="xs" onClick={() => setView(WHOLE)}>
          {phrase("compare.wholeSheet")}
        </Side>
      </Look>
    </Flex>
  );
}

/** Two drawings at sheet scale. */
export function Sheets({
  comparison,
  chosen,
}: {
  comparison: ComparisonView;
  chosen: string | undefined;
}) {
  const a = usePlane(comparison.contentA);
  const b = usePlane(comparison.contentB);
  if (a.isPending || b.isPending) return <Loading what={phrase("compare.drawing")} />;
  if (!a.data || !b.data) return <Failure error={a.error ?? b.error} />;
  return <Drawn a={a.data} b={b.data} tolerance={comparison.tolerance} chosen={chosen} />;
}
