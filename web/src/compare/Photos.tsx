import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { ComparisonView } from "../api/schema";
import { hues } from "../theme/hues";
import { useMode } from "../theme/mode";
import { Edge, Look, type LookName } from "./Look";
import { decimal } from "../shared/words";
import { phrase } from "../words/phrase";

const address = (content: string) => `/api/contents/${content}/picture?large=true`;

function load(content: string): Promise<HTMLImageElement> {
  return new Promise((resolve, reject) => {
    const image = new Image();
    image.onload = () => resolve(image);
    image.onerror = () => reject(new Error("no picture"));
    image.src = address(content);
  });
}

function pixels(image: HTMLImageElement, width: number, height: number): ImageData | undefined {
  const canvas = document.createElement("canvas");
  canvas.width = width;
  canvas.height = height;
  const ctx = canvas.getContext("2d", { willReadFrequently: true });
  ctx?.drawImage(image, 0, 0);
  return ctx?.getImageData(0, 0, width, height);
}

function hex(colour: string): [number, number, number] {
  const n = parseInt(colour.replace("#", ""), 16);
  return [(n >> 16) & 255, (n >> 8) & 255, n & 255];
}

/** B in pale grey, what differs in B's hue; the answer is the share of pixels that do. */
function paint(ctx: CanvasRenderingContext2D, a: ImageData, b: ImageData, hue: string): number {
  const out = ctx.createImageData(b.width, b.height);
  const [r, g, bl] = hex(hue);
  let differ = 0;
  for (let i = 0; i < b.data.length; i += 4) {
    const at = (data: ImageData, k: number) => data.data[i + k] ?? 0;
    const apart = Math.max(...[0, 1, 2, 3].map((k) => Math.abs(at(a, k) - at(b, k))));
    const grey = 200 + (at(b, 0) + at(b, 1) + at(b, 2)) / 20;
    if (apart > 8) differ++;
    out.data.set(apart > 8 ? [r, g, bl, 255] : [grey, grey, grey, at(b, 3)], i);
  }
  ctx.putImageData(out, 0, 0);
  return differ / (b.width * b.height);
}

function Difference({ comparison }: { comparison: ComparisonView }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [share, setShare] = useState<number>();
  const [mode] = useMode();
  const { contentA, contentB } = comparison;
  useEffect(() => {
    let wanted = true;
    void Promise.all([load(contentA), load(contentB)])
      .then(([a, b]) => {
        const element = canvas.current;
        const ctx = element?.getContext("2d");
        if (!wanted || !element || !ctx) return;
        element.width = Math.max(a.width, b.width);
        element.height = Math.max(a.height, b.height);
        const from = pixels(a, element.width, element.height);
        const to = pixels(b, element.width, element.height);
        if (from && to) setShare(paint(ctx, from, to, hues().b));
      })
      .catch(() => setShare(undefined));
    return () => {
      wanted = false;
    };
  }, [contentA, contentB, mode]);
  return (
    <Flex
      direction="column"
      h="100%"
      bg="raised"
      data-state={share === undefined ? "loading" : "shown"}
    >
      <canvas
        ref={canvas}
        role="img"
        aria-label={phrase("compare.whatDiffersBetweenTheTwoPictures")}
        style={{ flex: 1, minHeight: 0, width: "100%", objectFit: "contain" }}
      />
      <Text px="3" py="1" fontSize="12px" color="muted">
        {share === undefined
          ? phrase("compare.holdingThemAgainstEachOther")
          : phrase("compare.ofWhatIsShownDiffersIn", { share: decimal(share * 100, 1) })}
      </Text>
    </Flex>
  );
}

function Photo({ content, name }: { content: string; name: string }) {
  return (
    <Box h="100%" bg="raised">
      <img
        src={address(content)}
        alt={name}
        style={{ width: "100%", height: "100%", objectFit: "contain" }}
      />
    </Box>
  );
}

/** Two pictures. */
export function Photos({ comparison }: { comparison: ComparisonView }) {
  const [look, setLook] = useState<LookName>("over");
  return (
    <Flex direction="column" h="100%" minH="0">
      <Box flex="1" minH="0">
        <Edge
          look={look}
          over={<Difference comparison={comparison} />}
          a={<Photo content={comparison.contentA} name={phrase("compare.pictureA")} />}
          b={<Photo content={comparison.contentB} name={phrase("compare.pictureB")} />}
        />
      </Box>
      <Look look={look} onLook={setLook} />
    </Flex>
  );
}
