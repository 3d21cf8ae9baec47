import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { ClearOut as Wish } from "../api/schema";
import { useClearOut } from "../api/finding";
import { useSession } from "../api/queries";
import { Number, Tick } from "../shared/fields";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Main, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { useSettled } from "../shared/useSettled";
import { Leftovers } from "./Leftovers";
import { moment } from "../shared/dates";
import { count, duration, given, size } from "../shared/words";
import { phrase } from "../words/phrase";

interface Chosen {
  days: number;
  newest: number;
  damaged: boolean;
  gigabytes: number;
}

const NOTHING: Chosen = { days: 0, newest: 0, damaged: false, gigabytes: 0 };

const wishOf = (c: Chosen): Wish =>
  given({
    olderThan: c.days > 0 ? duration(Math.round(c.days * 86_400)) : undefined,
    beyondNewest: c.newest > 0 ? Math.round(c.newest) : undefined,
    damaged: c.damaged,
    need: Math.round(c.gigabytes * 1e9),
  }) as Wish;

/** Which copies a person wants to be rid of; what that costs is shown before anything is done. */
export function ClearOut({ project, name }: { project: string; name: string }) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState(NOTHING);
  const wish = useSettled(wishOf(chosen));
  const { preview, apply } = useClearOut(project, wish, open);
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow(60_000);
  const set = (changes: Partial<Chosen>) => setChosen({ ...chosen, ...changes });
  const going = preview.data;
  const close = () => {
    setOpen(false);
    setChosen(NOTHING);
  };
  return (
    <>
      <Quiet
        onClick={() => setOpen(true)}
        aria-label={phrase("folders.cleanUpBackupsOf", { name })}
      >
        {phrase("folders.cleanUp")}
      </Quiet>
      <FormDialog
        open={open}
        size="xl"
        onOpen={(o) => (o ? setOpen(true) : close())}
        title={phrase("folders.cleanUpBackupsOf", { name })}
        onSubmit={() => {
          if (going && going.drops > 0)
            apply.mutate({ wish, digest: going.digest }, { onSuccess: close });
        }}
        footer={
          <>
            <Side type="button" onClick={close}>
              {phrase("folders.leaveThem")}
            </Side>
            <Main type="submit" disabled={!going || going.drops === 0} loading={apply.isPending}>
              {going && going.drops > 0
                ? phrase("folders.moveToTheBin", { states: count(going.drops, "state") })
                : phrase("folders.nothingToClearOut")}
            </Main>
          </>
        }
      >
        <Flex direction="column" gap="2" fontSize="14px">
          <Flex gap="1.5" align="center">
            {phrase("folders.thoseOlderThanDays0Any", {
              number: (
                <Number
                  label={phrase("folders.daysOfAgeBeyondWhichBackups")}
                  value={chosen.days}
                  min={0}
                  max={3650}
                  onChange={(days) => set({ days })}
                />
              ),
            })}
          </Flex>
          <Flex gap="1.5" align="center">
            {phrase("folders.allButTheNewestOfEach", {
              number: (
                <Number
                  label={phrase("folders.newestBackupsThatStay")}
                  value={chosen.newest}
                  min={0}
                  max={100000}
                  onChange={(newest) => set({ newest })}
                />
              ),
            })}
          </Flex>
          <Flex gap="1.5" align="center">
            {phrase("folders.asManyAsItTakesFor", {
              number: (
                <Number
                  label={phrase("folders.gigabytesThatShouldBecomeFree")}
                  value={chosen.gigabytes}
                  min={0}
                  max={100000}
                  step={0.1}
                  onChange={(gigabytes) => set({ gigabytes })}
                />
              ),
            })}
          </Flex>
          <Tick
            label={phrase("folders.thoseThatAreDamagedOrDoubtful")}
            on={chosen.damaged}
            onChange={(damaged) => set({ damaged })}
          />
        </Flex>
        <Text fontSize="12px" color="muted" mt="2">
          {phrase("folders.pinnedAndNotedBackupsAndThe")}
        </Text>
        <Failure error={preview.error ?? apply.error} />
        <Box mt="2" minH="120px" maxH="240px" overflow="auto">
          {going && going.drops > 0 && (
            <>
              <Text fontSize="13px">
                {phrase("folders.goToTheBinRoomBecomes", { size: size(going.bytes) })}
              </Text>
              <Table.Root size="sm" fontSize="13px">
                <Table.Body>
                  {going.lines.map((l) => (
                    <Table.Row key={l.document} bg="transparent">
                      <Table.Cell>{l.name}</Table.Cell>
                      <Table.Cell>
                        {phrase("folders.of", {
                          drops: l.drops,
                          all: l.drops + l.stays,
                          size: size(l.bytes),
                        })}
                      </Table.Cell>
                      <Table.Cell color="muted">
                        {phrase("folders.reachesBackTo", {
                          then: l.reachThen
                            ? moment(l.reachThen, zone, now)
                            : phrase("folders.nothing"),
                          now:
                            l.reach &&
                            l.reach !== l.reachThen &&
                            phrase("folders.now", { moment: moment(l.reach, zone, now) }),
                        })}
                      </Table.Cell>
                    </Table.Row>
                  ))}
                </Table.Body>
              </Table.Root>
            </>
          )}
        </Box>
        <Leftovers project={project} zone={zone} now={now} />
      </FormDialog>
    </>
  );
}
