import { Box, Text } from "@chakra-ui/react";
import type { ByteChange } from "../api/schema";
import { count, size, sizeChange } from "../shared/words";
import { phrase } from "../words/phrase";

const WIDTH = 640;
const SHOWN = 12;

/** Which byte ranges of B stand nowhere in A, for kinds of files nobody can look into. */
export function ByteMap({ bytes }: { bytes: ByteChange }) {
  const x = (at: number) => (bytes.sizeB === 0 ? 0 : (at / bytes.sizeB) * WIDTH);
  return (
    <Box p="4" overflow="auto" h="100%" maxW="760px">
      <Text fontSize="13px" color="muted" mb="3">
        {phrase("compare.kavrinCannotLookInsideThisKind")}
      </Text>
      <Box asChild w="100%" css={{ "& text": { fill: "muted", fontSize: "12px" } }}>
        <svg
          viewBox={`0 0 ${WIDTH} 62`}
          role="img"
          aria-label={phrase("compare.ofBDifferFromA", {
            byteRanges: count(bytes.differing.length, "byte range"),
          })}
        >
          <defs>
            <pattern id="known" width="6" height="6" patternUnits="userSpaceOnUse">
              <path d="M0 6L6 0" stroke="currentColor" strokeWidth="0.7" opacity="0.45" />
            </pattern>
          </defs>
          <rect width={WIDTH} height="34" fill="url(#known)" stroke="currentColor" />
          <Box asChild fill="slate">
            <g>
              {bytes.differing.map((d) => (
                <rect
                  key={d.from}
                  x={x(d.from)}
                  width={Math.max(1.5, x(d.to) - x(d.from))}
                  height="34"
                />
              ))}
            </g>
          </Box>
          <text x="0" y="52">
            0
          </text>
          <text x={WIDTH} y="52" textAnchor="end">
            {size(bytes.sizeB)}
          </text>
        </svg>
      </Box>
      <Text fontSize="13px" mt="2">
        {phrase("compare.hatchedStandsInATooFilled", {
          hatched: size(bytes.shared),
          filled: size(bytes.sizeB - bytes.shared),
          whole: size(bytes.sizeA),
          change: sizeChange(bytes.sizeB - bytes.sizeA),
        })}
      </Text>
      {bytes.differing.slice(0, SHOWN).map((d) => (
        <Text key={d.from} fontFamily="mono" fontSize="12px" color="muted">
          {phrase("compare.byteTo", { from: d.from, to: d.to, size: size(d.to - d.from) })}
        </Text>
      ))}
      {bytes.differing.length > SHOWN && (
        <Text fontSize="12px" color="muted">
          {phrase("compare.and", {
            furtherRanges: count(bytes.differing.length - SHOWN, "further range"),
          })}
        </Text>
      )}
    </Box>
  );
}
