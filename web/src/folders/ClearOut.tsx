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
      <Quiet onClick={() => setOpen(true)} aria-label={`Clean up backups of ${name}`}>
        clean up…
      </Quiet>
      <FormDialog
        open={open}
        size="xl"
        onOpen={(o) => (o ? setOpen(true) : close())}
        title={`Clean up backups of ${name}`}
        onSubmit={() => {
          if (going && going.drops > 0)
            apply.mutate({ wish, digest: going.digest }, { onSuccess: close });
        }}
        footer={
          <>
            <Side type="button" onClick={close}>
              Leave them
            </Side>
            <Main type="submit" disabled={!going || going.drops === 0} loading={apply.isPending}>
              {going && going.drops > 0
                ? `Move ${count(going.drops, "state")} to the bin`
                : "Nothing to clear out"}
            </Main>
          </>
        }
      >
        <Flex direction="column" gap="2" fontSize="14px">
          <Flex gap="1.5" align="center">
            those older than
            <Number
              label="Days of age beyond which backups go"
              value={chosen.days}
              min={0}
              max={3650}
              onChange={(days) => set({ days })}
            />
            days (0: any age stays)
          </Flex>
          <Flex gap="1.5" align="center">
            all but the newest
            <Number
              label="Newest backups that stay"
              value={chosen.newest}
              min={0}
              max={100000}
              onChange={(newest) => set({ newest })}
            />
            of each document (0: any number stays)
          </Flex>
          <Flex gap="1.5" align="center">
            as many as it takes for
            <Number
              label="Gigabytes that should become free"
              value={chosen.gigabytes}
              min={0}
              max={100000}
              step={0.1}
              onChange={(gigabytes) => set({ gigabytes })}
            />
            GB, those first that leave the smallest gap
          </Flex>
          <Tick
            label="those that are damaged or doubtful"
            on={chosen.damaged}
            onChange={(damaged) => set({ damaged })}
          />
        </Flex>
        <Text fontSize="12px" color="muted" mt="2">
          Pinned and noted backups and the newest intact one of each document stay in any case.
        </Text>
        <Failure error={preview.error ?? apply.error} />
        <Box mt="2" minH="120px" maxH="240px" overflow="auto">
          {going && going.drops > 0 && (
            <>
              <Text fontSize="13px">
                {size(going.bytes)} go to the bin. Room becomes free as the bin lets go of them,
                after 14 days or when it is needed.
              </Text>
              <Table.Root size="sm" fontSize="13px">
                <Table.Body>
                  {going.lines.map((l) => (
                    <Table.Row key={l.document} bg="transparent">
                      <Table.Cell>{l.name}</Table.Cell>
                      <Table.Cell>
                        {l.drops} of {l.drops + l.stays}, {size(l.bytes)}
                      </Table.Cell>
                      <Table.Cell color="muted">
                        reaches back to {l.reachThen ? moment(l.reachThen, zone, now) : "nothing"}
                        {l.reach &&
                          l.reach !== l.reachThen &&
                          `, now ${moment(l.reach, zone, now)}`}
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
