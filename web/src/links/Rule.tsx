import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type Choice, useLinkRule } from "../api/linking";
import { Failure, Side } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

/** Many links at once: what lay in one folder lies in another now. */
export function Rule(props: { project: string; from: string; onFound: (all: Choice[]) => void }) {
  const [from, setFrom] = useState<string>();
  const [to, setTo] = useState("");
  const rule = useLinkRule(props.project);
  const before = from ?? props.from;
  return (
    <Box
      as="form"
      fontSize="13px"
      onSubmit={(e) => {
        e.preventDefault();
        rule.mutate(
          { from: before.trim(), to: to.trim() },
          { onSuccess: (found) => props.onFound(found) },
        );
      }}
    >
      <Text fontWeight="650">{phrase("links.aWholeFolderMoved")}</Text>
      <Text color="muted" mb="1.5">
        {phrase("links.everyMissingFileThatLiesIn")}
      </Text>
      <Input
        aria-label={phrase("links.whatLayIn")}
        size="xs"
        mb="1"
        fontFamily="mono"
        placeholder="/what/lay/in"
        value={before}
        onChange={(e) => setFrom(e.target.value)}
      />
      <Flex gap="1.5">
        <Input
          aria-label={phrase("links.liesNowIn")}
          size="xs"
          fontFamily="mono"
          placeholder="/lies/now/in"
          value={to}
          onChange={(e) => setTo(e.target.value)}
        />
        <Side
          needs="PLAN"
          size="xs"
          type="submit"
          loading={rule.isPending}
          disabled={before.trim() === "" || !to.trim().startsWith("/")}
        >
          {phrase("links.findThem")}
        </Side>
      </Flex>
      <Failure error={rule.error} />
      {rule.data && (
        <Text role="status" mt="1">
          {rule.data.length === 0
            ? phrase("links.noneOfTheMissingFilesStands")
            : phrase("links.foundThereAndChosen", { links: count(rule.data.length, "link") })}
        </Text>
      )}
    </Box>
  );
}
