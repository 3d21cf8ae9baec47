import { Box, Checkbox, Flex, Input, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";

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

/** A number inside a sentence. */
export function Number(props: {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  onChange: (value: number) => void;
}) {
  return (
    <Input
      type="number"
      size="xs"
      h="26px"
      w="64px"
      fontSize="14px"
      textAlign="center"
      fontWeight="650"
      border="0"
      borderBottom="1px solid"
      borderColor="ink"
      borderRadius="0"
      fontVariantNumeric="tabular-nums"
      aria-label={props.label}
      min={props.min}
      max={props.max}
      step={props.step ?? 1}
      value={Number0(props.value)}
      onChange={(e) => {
        const value = e.target.valueAsNumber;
        if (globalThis.Number.isFinite(value)) props.onChange(value);
      }}
    />
  );
}

const Number0 = (value: number) => String(Math.round(value * 100) / 100);

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
