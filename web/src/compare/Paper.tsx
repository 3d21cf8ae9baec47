import { Box, Table, Text } from "@chakra-ui/react";
import type { ComparisonView } from "../api/schema";
import { Printed } from "../shared/Printed";
import { PathText } from "../shared/parts";
import { arrange, keyOf } from "./arrange";
import { SIGN, value } from "./PartList";
import { phrase } from "../words/phrase";

/** All that differs with all its numbers, to be printed. */
export function Paper(props: {
  comparison: ComparisonView;
  path: string;
  sides: { a: string; b: string };
  onBack: () => void;
}) {
  const { comparison } = props;
  const [group] = arrange(
    comparison.changes.filter((c) => c.outcome !== "SAME"),
    { outcomes: new Set(comparison.changes.map((c) => c.outcome)), words: "", order: "weight" },
  );
  return (
    <Printed back={phrase("compare.backToThePicture")} onBack={props.onBack}>
      <Text as="h1" fontSize="20px" fontWeight="650">
        {comparison.sentence}
      </Text>
      <PathText path={props.path} />
      <Text fontSize="13px">A: {props.sides.a}</Text>
      <Text fontSize="13px">B: {props.sides.b}</Text>
      {comparison.tolerance > 0 && (
        <Text fontSize="13px" color="muted">
          {phrase("compare.lengthsUpToApartCountAs", { length: value(comparison.tolerance, "") })}
        </Text>
      )}
      {comparison.setups && <Text fontSize="13px">{comparison.setups}</Text>}
      {(group?.parts ?? []).map((part) => (
        <Box key={part.outcome + keyOf(part)} mt="3" css={{ breakInside: "avoid" }}>
          <Text fontSize="13px" fontWeight="650">
            {SIGN[part.outcome].sign} {keyOf(part)}{" "}
            <Text as="span" fontWeight="400" color="muted">
              {SIGN[part.outcome].word}, {part.words}
            </Text>
          </Text>
          <Table.Root
            size="sm"
            fontSize="12px"
            css={{ "& td": { py: "1px", borderColor: "hairline" } }}
          >
            <Table.Body>
              {Object.entries(part.numbers)
                .filter(([, pair]) => pair.a !== pair.b)
                .map(([name, pair]) => (
                  <Table.Row key={name} bg="transparent">
                    <Table.Cell w="220px">{name}</Table.Cell>
                    <Table.Cell fontFamily="mono">
                      {value(pair.a, pair.unit)} → {value(pair.b, pair.unit)}
                    </Table.Cell>
                  </Table.Row>
                ))}
            </Table.Body>
          </Table.Root>
        </Box>
      ))}
      <Text fontSize="13px" mt="3" color="muted">
        {phrase("compare.partsAreTheSame", { many: comparison.counts["SAME"] ?? 0 })}
      </Text>
    </Printed>
  );
}
