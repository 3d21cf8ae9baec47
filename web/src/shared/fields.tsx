import { Box, Checkbox, Field, Flex, Input, NumberInput, Text } from "@chakra-ui/react";
import { type KeyboardEvent, type ReactNode, useState } from "react";
import { Side } from "./parts";

/** A setting in a sentence: its name, the sentence, what it means. */
export function Setting(props: { name: string; children: ReactNode; under?: ReactNode }) {
  return (
    <Flex py="2" gap="3" borderBottom="1px solid" borderColor="hairline">
      <Text w="118px" flexShrink="0" color="muted" fontSize="13px" pt="1">
        {props.name}
      </Text>
      <Box flex="1" minW="0">
        <Flex align="center" gap="1.5" wrap="wrap" fontSize="14px">
          {props.children}
        </Flex>
        {props.under && (
          <Box color="muted" fontSize="12px" mt="0.5">
            {props.under}
          </Box>
        )}
      </Box>
    </Flex>
  );
}

/** A number inside a sentence; while one types it may be empty, and nothing changes. */
export function Number(props: {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  onChange: (value: number) => void;
}) {
  const [typed, setTyped] = useState<string>();
  return (
    <NumberInput.Root
      size="xs"
      w="64px"
      min={props.min}
      max={props.max}
      step={props.step ?? 1}
      formatOptions={{ useGrouping: false, maximumFractionDigits: 2 }}
      value={typed ?? rounded(props.value)}
      onValueChange={({ value, valueAsNumber }) => {
        setTyped(value);
        const within = valueAsNumber >= props.min && valueAsNumber <= props.max;
        if (within && valueAsNumber !== props.value) props.onChange(valueAsNumber);
      }}
      onFocusChange={({ focused }) => {
        if (!focused) setTyped(undefined);
      }}
    >
      <NumberInput.Input
        h="26px"
        px="1"
        fontSize="14px"
        textAlign="center"
        fontWeight="650"
        border="0"
        borderBottom="1px solid"
        borderColor="ink"
        borderRadius="0"
        fontVariantNumeric="tabular-nums"
        aria-label={props.label}
      />
    </NumberInput.Root>
  );
}

const rounded = (value: number) => String(Math.round(value * 100) / 100);

/** A few words inside a sentence. */
export function Words(props: {
  label: string;
  value: string;
  placeholder: string;
  wide?: boolean;
  onChange: (value: string) => void;
}) {
  return (
    <Input
      size="xs"
      h="26px"
      w={props.wide ? "100%" : "150px"}
      fontFamily="mono"
      fontSize="13px"
      border="0"
      borderBottom="1px solid"
      borderColor="ink"
      borderRadius="0"
      aria-label={props.label}
      value={props.value}
      placeholder={props.placeholder}
      maxLength={300}
      onChange={(e) => props.onChange(e.target.value)}
    />
  );
}

/** A field of a form under its name. */
export function Labelled(props: { label: string; under?: string; children: ReactNode }) {
  return (
    <Field.Root gap="0" css={{ "& input, & textarea": { fontSize: "13px" } }}>
      <Field.Label fontWeight="400" fontSize="13px">
        {props.label}
      </Field.Label>
      {props.children}
      {props.under && (
        <Field.HelperText color="muted" fontSize="12px">
          {props.under}
        </Field.HelperText>
      )}
    </Field.Root>
  );
}

/** Something that holds or does not. */
export function Tick(props: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <Checkbox.Root
      size="sm"
      checked={props.on}
      onCheckedChange={(e) => props.onChange(e.checked === true)}
    >
      <Checkbox.HiddenInput />
      <Checkbox.Control borderColor="muted" />
      <Checkbox.Label fontWeight="400">{props.label}</Checkbox.Label>
    </Checkbox.Root>
  );
}

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

const WRAPS = {
  h: "auto",
  minH: "32px",
  py: "1",
  whiteSpace: "normal",
  textAlign: "start",
} as const;

/** One of a few; the arrows go from one to the next, as in a row of radio buttons. */
export function OneOf<T extends string | boolean>(props: {
  label: string;
  options: readonly { value: T; words: ReactNode; why?: string }[];
  value: T | undefined;
  size?: "xs" | "sm";
  column?: boolean;
  onChange: (value: T) => void;
}) {
  const { options, value, onChange } = props;
  const at = Math.max(
    0,
    options.findIndex((o) => o.value === value),
  );
  const step = (e: KeyboardEvent<HTMLDivElement>) => {
    const by = STEPS[e.key];
    if (by === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    const next = (at + by + options.length) % options.length;
    const option = options[next];
    if (option) onChange(option.value);
    e.currentTarget.querySelectorAll<HTMLElement>("[role=radio]").item(next).focus();
  };
  return (
    <Flex
      role="radiogroup"
      aria-label={props.label}
      gap={props.column ? "1" : "1.5"}
      direction={props.column ? "column" : "row"}
      wrap={props.column ? "nowrap" : "wrap"}
      onKeyDown={step}
    >
      {options.map((o, i) => (
        <Side
          key={String(o.value)}
          size={props.size ?? "xs"}
          justifyContent={props.column ? "flex-start" : "center"}
          {...(props.column && WRAPS)}
          role="radio"
          tabIndex={i === at ? 0 : -1}
          aria-checked={value === o.value}
          title={o.why}
          bg={value === o.value ? "raised" : undefined}
          fontWeight={value === o.value ? "650" : "400"}
          onClick={() => onChange(o.value)}
        >
          {o.words}
        </Side>
      ))}
    </Flex>
  );
}
