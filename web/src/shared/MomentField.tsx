import { DateInput } from "@chakra-ui/react";
import { DateFormatter, parseAbsolute, toCalendarDateTime } from "@internationalized/date";
import { region } from "./locale";

/** Without its offset from UTC, which another day of the same zone may not have. */
const wallClock = (moment: string, zone: string) => toCalendarDateTime(parseAbsolute(moment, zone));

/**
 * A moment to the minute, part by part as the person's region writes it, in the given zone; ISO
 * 8601 comes and goes, undefined while it is not whole.
 */
export function MomentField(props: {
  label: string;
  value: string | undefined;
  zone: string;
  onChange: (moment: string | undefined) => void;
}) {
  const { language, hourCycle } = region();
  // Months have names and never numbers, which people read in either order.
  const written = new DateFormatter(language, {
    day: "2-digit",
    month: "short",
    year: "numeric",
    hour: hourCycle === "h12" ? "numeric" : "2-digit",
    minute: "2-digit",
    hourCycle,
    timeZone: props.zone,
  });
  const names = new Intl.DisplayNames(language, { type: "dateTimeField" });
  return (
    <DateInput.Root
      size="xs"
      width="auto"
      locale={language}
      granularity="minute"
      shouldForceLeadingZeros
      timeZone={props.zone}
      formatter={written}
      hourCycle={hourCycle === "h12" ? 12 : 24}
      value={props.value === undefined ? [] : [wallClock(props.value, props.zone)]}
      onValueChange={({ value: [moment] }) =>
        props.onChange(moment?.toDate(props.zone).toISOString())
      }
    >
      <DateInput.Label fontWeight="400" fontSize="13px">
        {props.label}
      </DateInput.Label>
      <DateInput.Control borderColor="hairline">
        <DateInput.Context>
          {(input) => (
            <DateInput.SegmentGroup>
              {input.getSegments().map((segment, n) => (
                <DateInput.Segment
                  key={n}
                  segment={segment}
                  aria-label={segment.isEditable ? names.of(segment.type) : undefined}
                />
              ))}
            </DateInput.SegmentGroup>
          )}
        </DateInput.Context>
      </DateInput.Control>
    </DateInput.Root>
  );
}
