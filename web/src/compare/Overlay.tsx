import { Box, Flex, Text } from "@chakra-ui/react";
import { type RefObject, useEffect, useRef, useState } from "react";
import type { ComparisonView } from "../api/schema";
import { useMode } from "../theme/mode";
import { Side } from "../shared/parts";
import { hues } from "../theme/hues";
import { keyOf } from "./arrange";
import { Look, type LookName, Slider } from "./Look";
import { value } from "./PartList";
import { CompareScene, type Layout } from "./scene";
import { phrase } from "../words/phrase";

type Loaded = "loading" | "shown" | "failed";

/** Bodies are lit and shaded, so what is the same in both is paler than a line of it would be. */
const bodies = (mode: string) => ({ ...hues(), same: mode === "dark" ? "#8b8f8c" : "#cfc8b8" });

function layoutOf(look: LookName, edge: number): Layout {
  if (look === "beside") return { kind: "beside" };
  if (look === "edge") return { kind: "edge", at: edge / 100 };
  return { kind: "one", show: look === "over" ? "both" : look };
}

/** Null where the browser cannot draw. */
function openScene(element: HTMLElement): CompareScene | null {
  try {
    return new CompareScene(element);
  } catch {
    return null;
  }
}

/** Has the scene show a content on one side; the camera stays where it is. */
function useSide(
  scene: RefObject<CompareScene | null>,
  side: "a" | "b",
  content: string,
  onDrawn: (tell: (times: number) => number) => void,
): Loaded {
  const [state, setState] = useState<Loaded>("loading");
  useEffect(() => {
    let wanted = true;
    const loading =
      scene.current?.load(side, `/api/contents/${content}/preview`) ??
      Promise.reject(new Error("nothing can be drawn"));
    loading.then(
      () => {
        if (!wanted) return;
        setState("shown");
        onDrawn((times) => times + 1);
      },
      () => wanted && setState("failed"),
    );
    return () => {
      wanted = false;
    };
  }, [scene, side, content, onDrawn]);
  return state;
}

/** From where nothing went to the farthest. */
function Scale({ farthest }: { farthest: number }) {
  return (
    <Flex align="center" gap="2" fontSize="12px" color="muted" w="260px">
      0
      <Box
        flex="1"
        h="8px"
        bgImage="linear-gradient(to right, var(--chakra-colors-same), var(--chakra-colors-slate))"
      />
      {phrase("compare.moved", { many: value(farthest, "m") })}
    </Flex>
  );
}

/** Both states in one picture: A's own in A's hue, B's own in B's, the same in grey. */
export function Overlay({
  comparison,
  chosen,
  onChoose,
}: {
  comparison: ComparisonView;
  chosen: string | undefined;
  onChoose?: (part: string | undefined) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const scene = useRef<CompareScene>(null);
  const [look, setLook] = useState<LookName>("over");
  const [edge, setEdge] = useState(50);
  const [far, setFar] = useState(false);
  const [farthest, setFarthest] = useState<number>();
  const pressed = useRef({ x: 0, y: 0 });
  const [mode] = useMode();
  const { contentA, contentB, changes } = comparison;

  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    const current = openScene(element);
    scene.current = current;
    return () => {
      scene.current = null;
      current?.dispose();
    };
  }, []);
  const [drawn, setDrawn] = useState(0);
  const shownA = useSide(scene, "a", contentA, setDrawn);
  const shownB = useSide(scene, "b", contentB, setDrawn);
  const state: Loaded =
    shownA === "shown" || shownB === "shown"
      ? "shown"
      : shownA === "loading" || shownB === "loading"
        ? "loading"
        : "failed";

  useEffect(() => {
    const most = scene.current?.paint(changes, layoutOf(look, edge), bodies(mode), chosen, far);
    setFarthest(most);
  }, [changes, look, edge, far, chosen, mode, drawn]);

  const canFar = changes.some((c) => c.shift !== undefined && c.shift.largest > 0);
  return (
    <Flex direction="column" h="100%" minH="0">
      <Box
        ref={holder}
        flex="1"
        minH="0"
        bg="raised"
        position="relative"
        overflow="hidden"
        role="img"
        aria-label={phrase("compare.pictureOfTheComparison", { sentence: comparison.sentence })}
        data-state={state}
        onPointerDown={(e) => (pressed.current = { x: e.clientX, y: e.clientY })}
        onPointerUp={(e) => {
          const still =
            Math.abs(e.clientX - pressed.current.x) + Math.abs(e.clientY - pressed.current.y) < 4;
          if (!still || !onChoose || e.target instanceof HTMLInputElement) return;
          const box = e.currentTarget.getBoundingClientRect();
          const part = scene.current?.partAt(e.clientX - box.left, e.clientY - box.top);
          const change = changes.find((c) => c.b === part || c.a === part);
          onChoose(change && keyOf(change));
        }}
      >
        {state === "loading" && (
          <Text position="absolute" inset="0" m="auto" h="20px" textAlign="center" color="muted">
            {phrase("compare.drawing")}
          </Text>
        )}
        {look === "edge" && <Slider at={edge} onAt={setEdge} />}
        {state === "failed" && (
          <Text
            position="absolute"
            inset="0"
            m="auto"
            h="40px"
            textAlign="center"
            color="muted"
            px="8"
          >
            {phrase("compare.noPictureCanBeDrawnHere")}
          </Text>
        )}
      </Box>
      <Look look={look} onLook={setLook}>
        {look === "over" && canFar && (
          <Side
            size="xs"
            aria-pressed={far}
            bg={far ? "raised" : undefined}
            onClick={() => setFar(!far)}
          >
            {phrase("compare.howFarItMoved")}
          </Side>
        )}
        {far && farthest !== undefined && <Scale farthest={farthest} />}
        <Side size="xs" ml="auto" onClick={() => scene.current?.turn(-0.35)}>
          {phrase("compare.turnLeft")}
        </Side>
        <Side size="xs" onClick={() => scene.current?.turn(0.35)}>
          {phrase("compare.turnRight")}
        </Side>
      </Look>
    </Flex>
  );
}
