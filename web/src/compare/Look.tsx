import { Box, Flex, Grid, Slider as Slide } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { useKeys } from "../shared/keys";
import { Side } from "../shared/parts";
import { phrase } from "../words/phrase";

export type LookName = "over" | "beside" | "edge" | "a" | "b";

const LOOKS: Record<LookName, string> = {
  over: phrase("compare.inOnePicture"),
  beside: phrase("compare.sideBySide"),
  edge: phrase("compare.slidingEdge"),
  a: "A",
  b: "B",
};

/** At the foot of a picture, in ink. */
/** How two pictures are looked at, and what is told of them. */
export function Look(props: {
  look: LookName;
  onLook: (look: LookName) => void;
  children?: ReactNode;
}) {
  const names = Object.keys(LOOKS) as LookName[];
  const next = names[(names.indexOf(props.look) + 1) % names.length] ?? "over";
  useKeys({ v: () => props.onLook(next) });
  return (
    <Flex
      gap="1.5"
      px="3"
      py="1.5"
      align="center"
      borderTop="1px solid"
      borderColor="hairline"
      flexWrap="wrap"
      minH="40px"
    >
      {names.map((name) => (
        <Side
          key={name}
          size="xs"
          aria-pressed={props.look === name}
          bg={props.look === name ? "raised" : undefined}
          fontWeight={props.look === name ? "650" : "400"}
          onClick={() => props.onLook(name)}
        >
          {LOOKS[name]}
        </Side>
      ))}
      {props.children}
    </Flex>
  );
}

/** Where A ends and B begins, in per cent of the width. */
export function Slider(props: { at: number; onAt: (at: number) => void }) {
  return (
    <>
      <Box
        position="absolute"
        top="0"
        bottom="0"
        left={`${props.at}%`}
        w="2px"
        bg="ink"
        pointerEvents="none"
      />
      <Slide.Root
        size="sm"
        position="absolute"
        insetX="2"
        bottom="1.5"
        min={0}
        max={100}
        thumbAlignment="center"
        value={[props.at]}
        onValueChange={({ value: [at] }) => at !== undefined && props.onAt(at)}
      >
        <Slide.Label srOnly>{phrase("compare.whereAEndsAndBBegins")}</Slide.Label>
        <Slide.Control>
          <Slide.Track bg="hairline">
            <Slide.Range bg="ink" />
          </Slide.Track>
          <Slide.Thumb index={0} bg="ground" borderColor="ink">
            <Slide.HiddenInput />
          </Slide.Thumb>
        </Slide.Control>
      </Slide.Root>
    </>
  );
}

/** A and B as they are to be looked at; the edge is slid by hand or with the arrow keys. */
export function Edge(props: { look: LookName; over: ReactNode; a: ReactNode; b: ReactNode }) {
  const [at, setAt] = useState(50);
  if (props.look === "over") return props.over;
  if (props.look === "a") return props.a;
  if (props.look === "b") return props.b;
  if (props.look === "beside") {
    return (
      <Grid templateColumns="1fr 1fr" h="100%" gap="1px" bg="hairline">
        <Box minW="0" minH="0">
          {props.a}
        </Box>
        <Box minW="0" minH="0">
          {props.b}
        </Box>
      </Grid>
    );
  }
  return (
    <Box position="relative" h="100%" overflow="hidden">
      <Box position="absolute" inset="0">
        {props.a}
      </Box>
      <Box position="absolute" inset="0" clipPath={`inset(0 0 0 ${at}%)`}>
        {props.b}
      </Box>
      <Slider at={at} onAt={setAt} />
    </Box>
  );
}
