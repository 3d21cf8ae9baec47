import { Box, Flex, NativeSelect, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useCourse } from "../../api/parts";
import { value } from "../../compare/PartList";
import { DASHES, legend, pathOf, reach } from "../../parts/Course";
import type { TimeScale } from "./time";
import { phrase } from "../../words/phrase";

const H = 52;

/** How a field of a run went, under the steps it was written with. */
export function RunCurve(props: { document: string; scale: TimeScale; names: number }) {
  const [field, setField] = useState<number>();
  const course = useCourse(props.document, field).data;
  const { lines, from, to } = reach(course?.series ?? []);
  const unit = course?.series[0]?.unit ?? "";
  const label = course?.fields.find((f) => f.id === course.shown)?.label ?? "";
  const width = props.scale.width;
  const times = course?.work.map((w) => props.scale.x(new Date(w).getTime())) ?? [];
  return (
    <Flex h={`${H + 6}px`} mb="1">
      <Box w={`${props.names}px`} pr="3" flexShrink="0">
        {course && course.fields.length > 0 && (
          <>
            <NativeSelect.Root size="xs">
              <NativeSelect.Field
                aria-label={phrase("versions.fieldWhoseCourseIsDrawn")}
                borderColor="hairline"
                value={course.shown}
                onChange={(e) => setField(Number(e.target.value))}
              >
                {course.fields.map((f) => (
                  <option key={f.id} value={f.id}>
                    {f.label}
                  </option>
                ))}
              </NativeSelect.Field>
              <NativeSelect.Indicator />
            </NativeSelect.Root>
            <Text fontSize="11px" color="muted" whiteSpace="nowrap">
              {legend(course.series)}
            </Text>
          </>
        )}
      </Box>
      {from <= to && (
        <Box position="relative">
          <svg
            width={width + 2}
            height={H}
            role="img"
            aria-label={phrase("versions.overTheStepsFromTo", {
              label,
              series: course?.series.map((s) => s.name).join(", ") ?? "",
              least: value(from, unit),
              most: value(to, unit),
            })}
          >
            <line
              x1="0"
              x2={width}
              y1={H - 0.5}
              y2={H - 0.5}
              stroke="var(--chakra-colors-hairline)"
            />
            {lines.map((values, i) => (
              <path
                key={course?.series[i]?.name}
                d={pathOf(values, from, to, (at) => times[at] ?? 0, H - 3)}
                fill="none"
                stroke="var(--chakra-colors-ink)"
                strokeWidth="1.3"
                strokeDasharray={DASHES[i % DASHES.length]}
              />
            ))}
          </svg>
          {[to, from].map((end, i) => (
            <Text
              key={i}
              position="absolute"
              left="2px"
              top={i === 0 ? "-2px" : `${H - 17}px`}
              fontSize="11px"
              fontFamily="mono"
              color="muted"
              bg="ground"
            >
              {value(end, unit)}
            </Text>
          ))}
        </Box>
      )}
    </Flex>
  );
}
