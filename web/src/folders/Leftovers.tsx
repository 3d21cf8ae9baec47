import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useLeftovers } from "../api/finding";
import { Tick } from "../shared/fields";
import { Failure, Side } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, KIND, size } from "../shared/words";
import { phrase } from "../words/phrase";

/** What the program itself left lying; nothing goes that was not named, and not before a copy. */
export function Leftovers({ project, zone, now }: { project: string; zone: string; now: number }) {
  const [open, setOpen] = useState(false);
  const [named, setNamed] = useState<ReadonlySet<string>>(new Set());
  const { leftovers, clear } = useLeftovers(project, open);
  const files = leftovers.data?.files ?? [];
  const going = files.filter((f) => named.has(f.path));
  const toggle = (path: string, on: boolean) => {
    const next = new Set(named);
    if (on) next.add(path);
    else next.delete(path);
    setNamed(next);
  };
  return (
    <Box mt="2" borderTop="1px solid" borderColor="hairline" pt="2" fontSize="13px">
      <Box asChild>
        <details onToggle={(e) => setOpen(e.currentTarget.open)}>
          <summary>{phrase("folders.theProgramsOwnCopiesByName")}</summary>
          <Text color="muted" fontSize="12px" mt="1">
            {phrase("folders.eachIsBackedUpFirstAnd")}
          </Text>
          {leftovers.data?.programRuns && (
            <Text color="caution">
              {phrase("folders.runsAndMayStillNeedThem", { program: leftovers.data.program })}
            </Text>
          )}
          {leftovers.isSuccess && files.length === 0 && <Text>{phrase("folders.itLeftNone")}</Text>}
          <Box maxH="160px" overflow="auto" my="1">
            {files.map((f) => (
              <Flex key={f.path} gap="2" align="center" title={f.path}>
                <Tick label={f.name} on={named.has(f.path)} onChange={(on) => toggle(f.path, on)} />
                <Text color="muted" whiteSpace="nowrap">
                  {KIND[f.kind]}, {size(f.size)}, {moment(f.modified, zone, now)}
                </Text>
              </Flex>
            ))}
          </Box>
          <Failure error={leftovers.error ?? clear.error} />
          {clear.data?.leftAlone.map((l) => (
            <Text key={l.path} color="caution">
              ▲ {l.path}: {l.words}
            </Text>
          ))}
          {clear.data && (
            <Text role="status">
              {phrase("folders.backedUpAndRemoved", { files: count(clear.data.cleared, "file") })}
            </Text>
          )}
          {files.length > 0 && (
            <Side
              size="xs"
              type="button"
              disabled={going.length === 0 || leftovers.data?.programRuns}
              loading={clear.isPending}
              onClick={() =>
                clear.mutate(
                  going.map(({ path, modified }) => ({ path, modified })),
                  { onSuccess: () => setNamed(new Set()) },
                )
              }
            >
              {going.length === 0
                ? phrase("folders.nameThoseThatShouldGo")
                : phrase("folders.copyThenTakeAway", {
                    files: count(going.length, "file"),
                    going: going.length,
                  })}
            </Side>
          )}
        </details>
      </Box>
    </Box>
  );
}
