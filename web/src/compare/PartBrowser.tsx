import { Box, Flex, Input, NativeSelect, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import type { ComparisonView } from "../api/schema";
import { useKeys } from "../shared/keys";
import { Quiet } from "../shared/parts";
import { arrange, type Order, type Outcome } from "./arrange";
import { MANY, type OnTake, PartGroups, SIGN } from "./PartList";
import { phrase } from "../words/phrase";

const ORDERS: Record<Order, string> = {
  weight: phrase("compare.largestChangeFirst"),
  name: phrase("compare.byName"),
  place: phrase("compare.byWhatTheyBelongTo"),
};

/** The parts of a comparison, by what became of them, searched and put in order. */
export function PartBrowser(props: {
  comparison: ComparisonView;
  chosen: string | undefined;
  onChoose: (part: string | undefined) => void;
  onTake?: OnTake | undefined;
}) {
  const { comparison } = props;
  const there = (Object.keys(SIGN) as Outcome[]).filter((o) => (comparison.counts[o] ?? 0) > 0);
  const [hidden, setHidden] = useState<ReadonlySet<Outcome>>(new Set(["SAME"]));
  const [words, setWords] = useState("");
  const [order, setOrder] = useState<Order>("weight");
  const search = useRef<HTMLInputElement>(null);
  useKeys({ "/": () => search.current?.focus() });
  const groups = arrange(comparison.changes, {
    outcomes: new Set(there.filter((o) => !hidden.has(o))),
    words,
    order,
  });
  const shown = groups.reduce((n, g) => n + g.parts.length, 0);
  const toggle = (outcome: Outcome) => {
    const next = new Set(hidden);
    if (!next.delete(outcome)) next.add(outcome);
    setHidden(next);
  };
  return (
    <>
      <Box px="3" py="1.5" borderBottom="1px solid" borderColor="hairline">
        <Flex gap="1" wrap="wrap" role="group" aria-label={phrase("compare.showPartsThatAre")}>
          {there.map((outcome) => (
            <Quiet
              key={outcome}
              aria-pressed={!hidden.has(outcome)}
              color={hidden.has(outcome) ? "muted" : "ink"}
              bg={hidden.has(outcome) ? undefined : "raised"}
              onClick={() => toggle(outcome)}
            >
              {SIGN[outcome].sign} {comparison.counts[outcome]} {SIGN[outcome].word}
            </Quiet>
          ))}
        </Flex>
        <Flex gap="1.5" mt="1.5">
          <Input
            ref={search}
            size="xs"
            flex="1"
            placeholder={phrase("compare.findAPart")}
            aria-label={phrase("compare.findAPart2")}
            borderColor="hairline"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            onKeyDown={(e) => e.key === "Escape" && search.current?.blur()}
          />
          <NativeSelect.Root size="xs" w="165px">
            <NativeSelect.Field
              aria-label={phrase("compare.orderOfTheParts")}
              borderColor="hairline"
              value={order}
              onChange={(e) => setOrder(e.target.value as Order)}
            >
              {(Object.keys(ORDERS) as Order[]).map((o) => (
                <option key={o} value={o}>
                  {ORDERS[o]}
                </option>
              ))}
            </NativeSelect.Field>
            <NativeSelect.Indicator />
          </NativeSelect.Root>
        </Flex>
      </Box>
      <Box
        flex="1"
        minH="0"
        overflow="auto"
        tabIndex={0}
        role="region"
        aria-label={phrase("common.parts")}
      >
        <PartGroups
          groups={groups}
          chosen={props.chosen}
          onChoose={props.onChoose}
          onTake={props.onTake}
        />
        {shown === 0 && (
          <Text px="3" py="2" fontSize="13px" color="muted">
            {words === ""
              ? phrase("compare.nothingDiffersChooseAboveToSee")
              : phrase("compare.noPartHasThatInIts")}
          </Text>
        )}
        {shown > MANY && (
          <Text px="3" py="2" fontSize="13px" color="muted">
            {phrase("compare.moreSearchOrChooseAboveTo", { shown: shown - MANY })}
          </Text>
        )}
      </Box>
    </>
  );
}
