import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { ComparisonView } from "../api/schema";
import { useMode } from "../theme/mode";
import { Side } from "../shared/parts";
import { CompareScene, type Show } from "./scene";

type Loaded = "loading" | "shown" | "failed";

const VIEWS: [Show, string][] = [
  ["both", "A and B over each other"],
  ["a", "A alone"],
  ["b", "B alone"],
];

/** Null where the browser cannot draw. */
function openScene(element: HTMLElement): CompareScene | null {
  try {
    return new CompareScene(element);
  } catch {
    return null;
  }
}

async function load(scene: CompareScene | null, a: string, b: string): Promise<Loaded> {
  if (!scene) return "failed";
  const sides = await Promise.allSettled([
    scene.load("a", `/api/contents/${a}/preview`),
    scene.load("b", `/api/contents/${b}/preview`),
  ]);
  return sides.some((s) => s.status === "fulfilled") ? "shown" : "failed";
}

/** Both states in one picture: A's own in A's hue, B's own in B's, the same in grey. */
export function Overlay({
  comparison,
  chosen,
}: {
  comparison: ComparisonView;
  chosen: string | undefined;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const scene = useRef<CompareScene>(null);
  const [show, setShow] = useState<Show>("both");
  const [state, setState] = useState<Loaded>("loading");
  const [mode] = useMode();
  const { contentA, contentB, changes } = comparison;

  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    const current = openScene(element);
    scene.current = current;
    void load(current, contentA, contentB).then((loaded) => {
      if (scene.current === current) setState(loaded);
    });
    return () => {
      scene.current = null;
      current?.dispose();
    };
  }, [contentA, contentB]);

  useEffect(() => {
    const style = getComputedStyle(document.documentElement);
    const colour = (name: string) => style.getPropertyValue(`--chakra-colors-${name}`).trim();
    scene.current?.paint(
      changes,
      show,
      {
        a: colour("clay"),
        b: colour("slate"),
        same: mode === "dark" ? "#8b8f8c" : "#cfc8b8",
        ground: colour("raised"),
      },
      chosen,
    );
  }, [changes, show, chosen, mode, state]);

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
        aria-label={`Picture of the comparison. ${comparison.sentence}`}
        data-state={state}
      >
        {state === "loading" && (
          <Text position="absolute" inset="0" m="auto" h="20px" textAlign="center" color="muted">
            Drawing
          </Text>
        )}
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
            No picture can be drawn here. The list of parts tells the same.
          </Text>
        )}
      </Box>
      <Flex
        gap="1.5"
        px="3"
        py="1.5"
        align="center"
        borderTop="1px solid"
        borderColor="hairline"
        flexWrap="wrap"
      >
        {VIEWS.map(([value, name]) => (
          <Side
            key={value}
            size="xs"
            aria-pressed={show === value}
            bg={show === value ? "raised" : undefined}
            fontWeight={show === value ? "650" : "400"}
            onClick={() => setShow(value)}
          >
            {name}
          </Side>
        ))}
        <Side size="xs" ml="auto" onClick={() => scene.current?.turn(-0.35)}>
          turn left
        </Side>
        <Side size="xs" onClick={() => scene.current?.turn(0.35)}>
          turn right
        </Side>
      </Flex>
    </Flex>
  );
}
