import { Flex, NativeSelect, Text } from "@chakra-ui/react";
import type { Wanted } from "../api/schema";
import { Number, Tick } from "../shared/fields";
import { duration, seconds } from "../shared/words";
import { phrase } from "../words/phrase";

/** One of a few, in a row. */
export function Choice<T extends string>(props: {
  label: string;
  value: T | "";
  options: readonly (readonly [T, string])[];
  none?: string;
  w: string;
  onChange: (value: T) => void;
}) {
  return (
    <NativeSelect.Root size="xs" w={props.w}>
      <NativeSelect.Field
        aria-label={props.label}
        borderColor="hairline"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value as T)}
      >
        {props.none !== undefined && <option value="">{props.none}</option>}
        {props.options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
  );
}

/** What a program's own settings should say. */
export function Wishes({
  wanted,
  set,
}: {
  wanted: Wanted;
  set: (changes: Partial<Wanted>) => void;
}) {
  return (
    <Flex gap="4" wrap="wrap" align="center" fontSize="13px" mt="2">
      <Text color="muted">{phrase("programs.itShouldBe")}</Text>
      <Tick
        label={phrase("programs.on")}
        on={wanted.enabled === true}
        onChange={(on) => set({ enabled: on })}
      />
      <Flex align="center" gap="1.5">
        {phrase("programs.everyMinAtMost0As", {
          number: (
            <Number
              label={phrase("programs.minutesBetweenItsAutosavesAtMost")}
              value={wanted.interval ? seconds(wanted.interval) / 60 : 0}
              min={0}
              max={1440}
              onChange={(m) => set({ interval: m > 0 ? duration(Math.round(m * 60)) : undefined })}
            />
          ),
        })}
      </Flex>
      <Flex align="center" gap="1.5">
        {phrase("programs.keepingAtLeast0AsIt", {
          number: (
            <Number
              label={phrase("programs.autosavesItShouldKeepAtLeast")}
              value={wanted.count ?? 0}
              min={0}
              max={10000}
              onChange={(n) => set({ count: n > 0 ? Math.round(n) : undefined })}
            />
          ),
        })}
      </Flex>
    </Flex>
  );
}
