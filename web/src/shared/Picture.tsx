import { Box } from "@chakra-ui/react";
import { useState } from "react";

/** A small picture of a content; its place stays, whether there is one or not. */
export function Picture(props: {
  content: string;
  /** A part to show among the others. */
  lit?: string;
  alt: string;
  width: number;
  height: number;
}) {
  const [gone, setGone] = useState("");
  return (
    <Box
      w={`${props.width}px`}
      h={`${props.height}px`}
      flexShrink="0"
      bg="raised"
      borderRadius="3px"
      overflow="hidden"
      visibility={gone === props.content ? "hidden" : undefined}
    >
      <img
        src={`/api/contents/${props.content}/picture${props.lit === undefined ? "" : `?lit=${encodeURIComponent(props.lit)}`}`}
        alt={props.alt}
        width={props.width}
        height={props.height}
        loading="lazy"
        decoding="async"
        style={{ objectFit: "contain", width: "100%", height: "100%" }}
        onError={() => setGone(props.content)}
      />
    </Box>
  );
}
