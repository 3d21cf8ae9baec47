import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { DocumentLine } from "../api/schema";
import { Key, Quiet, Side } from "../shared/parts";
import { lostTime } from "../shared/words";
import { phrase } from "../words/phrase";

/** From here on a list is searched rather than read. */
const MANY = 12;

const byLoss = (x: DocumentLine, y: DocumentLine) =>
  (y.lostSeconds ?? Infinity) - (x.lostSeconds ?? Infinity) || x.name.localeCompare(y.name);

/** Documents that went down together, the largest loss first; one is on the desk. */
export function Group(props: {
  documents: DocumentLine[];
  chosen: string;
  onChoose: (id: string) => void;
  onAll: () => void;
}) {
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState("");
  const all = [...props.documents].sort(byLoss);
  const at = all.findIndex((d) => d.id === props.chosen);
  const shown = all.filter((d) => d.name.toLowerCase().includes(words.toLowerCase()));
  const next = all[(at + 1) % all.length];
  return (
    <Box borderBottom="1px solid" borderColor="hairline" px="3" py="1.5" fontSize="13px">
      <Flex gap="2" align="baseline">
        <Text flex="1">
          {phrase("recover.ofDocumentsThatWentDownTogether", { at: at + 1, all: all.length })}
        </Text>
        <Quiet onClick={() => setOpen(!open)} aria-expanded={open}>
          {phrase("recover.all")}
        </Quiet>
        <Quiet onClick={() => next && props.onChoose(next.id)} title={phrase("recover.keyD")}>
          {phrase("recover.next")}
        </Quiet>
      </Flex>
      <Side needs="RESTORE" size="xs" mt="1" onClick={props.onAll}>
        {phrase("recover.recoverSeveral")} <Key>g</Key>
      </Side>
      {open && (
        <>
          {all.length > MANY && (
            <Input
              size="xs"
              my="1"
              placeholder={phrase("recover.findADocument")}
              aria-label={phrase("recover.findADocumentOfThisCrash")}
              value={words}
              onChange={(e) => setWords(e.target.value)}
            />
          )}
          <Box as="ul" listStyleType="none" maxH="200px" overflow="auto">
            {shown.map((d) => (
              <Flex as="li" key={d.id} gap="2">
                <Quiet
                  color="ink"
                  fontWeight={d.id === props.chosen ? "700" : "400"}
                  aria-current={d.id === props.chosen ? "true" : undefined}
                  onClick={() => props.onChoose(d.id)}
                >
                  {d.name}
                </Quiet>
                <Text ml="auto" color="loss" whiteSpace="nowrap">
                  {d.lostSeconds === undefined
                    ? phrase("recover.nothingWhole")
                    : lostTime(d.lostSeconds * 1000)}
                </Text>
              </Flex>
            ))}
            {shown.length === 0 && (
              <Text color="muted">{phrase("recover.noDocumentHasThatInIts")}</Text>
            )}
          </Box>
        </>
      )}
    </Box>
  );
}
