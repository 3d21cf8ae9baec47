import { Box, Flex, Text } from "@chakra-ui/react";
import type { GroupView } from "../api/schema";
import { useGroupUndo } from "../api/restoring";
import { Failure, Health, PathText, Side } from "../shared/parts";
import { moment } from "../shared/dates";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

function One({
  group,
  newest,
  zone,
  now,
}: {
  group: GroupView;
  newest: boolean;
  zone: string;
  now: number;
}) {
  const undo = useGroupUndo();
  const words = group.undoes
    ? phrase("recoverseveral.undone", { what: group.what })
    : phrase("recoverseveral.restored", { what: group.what });
  const told = group.receipts.map((r) => r.receipt.told).filter((t) => t !== "");
  return (
    <Box px="4" py="2" borderTop="1px solid" borderColor="hairline" fontSize="13px">
      <Flex gap="3" align="baseline" role={newest ? "status" : undefined}>
        <Text
          flex="1"
          color={group.done ? (newest ? "fir" : "ink") : "caution"}
          fontWeight={newest ? "650" : "400"}
        >
          {group.done
            ? phrase("recoverseveral.readBackInFull", {
                words,
                files: count(group.receipts.length, "file"),
              })
            : phrase("recoverseveral.notDone", { words, told: group.told })}
        </Text>
        <Text color="muted">
          {group.who}, {moment(group.made, zone, now)}
        </Text>
        {group.done && (
          <Side
            needs="RESTORE"
            size="xs"
            loading={undo.isPending}
            onClick={() => undo.mutate(group.id)}
          >
            {group.undoes
              ? phrase("recoverseveral.undoTheUndoing")
              : phrase("recoverseveral.undoAll")}
          </Side>
        )}
      </Flex>
      {told.map((t) => (
        <Text key={t} color="caution">
          {t}
        </Text>
      ))}
      <Failure error={undo.error} />
      {newest &&
        group.receipts.map((r) => (
          <Flex key={r.id} gap="3" py="0.5">
            <Health verdict={r.receipt.verdict} />
            <PathText path={r.receipt.target} />
          </Flex>
        ))}
    </Box>
  );
}

/** What was restored together, the newest first; each can be taken back. */
export function Done(props: {
  groups: GroupView[];
  newest: string | undefined;
  zone: string;
  now: number;
}) {
  return props.groups
    .slice(0, 8)
    .map((group) => (
      <One
        key={group.id}
        group={group}
        newest={group.id === props.newest}
        zone={props.zone}
        now={props.now}
      />
    ));
}
