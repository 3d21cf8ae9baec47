import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { useSearch } from "../api/finding";
import { useFolders, useSession } from "../api/queries";
import { useGo } from "../app/where";
import { Empty, Failure, Loading, Main, PageHead, PathText } from "../shared/parts";
import { ClearOut } from "./ClearOut";
import { Hours } from "./Hours";
import { Layout } from "./Layout";
import { Room } from "./Room";
import { Search } from "./Search";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { age, count, size } from "../shared/words";
import { Head } from "../shared/Head";

const ROLE: Record<string, string> = {
  WORK: "work lies here",
  RECOVERY: "backups",
  PROGRAM: "looked into too",
  SETTINGS: "program settings",
};

export function Folders() {
  const places = useFolders();
  const { search } = useSearch();
  const { go } = useGo();
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow(60_000);
  if (places.isPending) return <Loading what="Looking at the folders" />;
  if (!places.data) return <Failure error={places.error} />;
  if (places.data.length === 0) {
    return (
      <Empty title="No folders yet">
        <Text mb="3">Folders have a role: the work lies there, or backups go there.</Text>
        <Main onClick={() => go("/start")}>Say where the work lies</Main>
      </Empty>
    );
  }
  const latest = search.data?.latest;
  const lookedAt = new Map(latest?.looked.map((l) => [l.place, latest.ended]));
  const away = places.data.filter((p) => !p.here).length;
  return (
    <Box>
      <PageHead
        title={away === 0 ? "All folders are reachable" : `${count(away, "folder")} away`}
        under="Each folder Kavrin writes to carries a marker, so that an empty mount point is never taken for it."
      />
      <Box px="4" py="2">
        <Table.ScrollArea
          position="relative"
          tabIndex={0}
          role="region"
          aria-label="Folders, table"
        >
          <Table.Root
            minW="900px"
            whiteSpace="normal"
            size="sm"
            fontSize="13px"
            css={{ "& td, & th": { borderColor: "hairline", verticalAlign: "top" } }}
          >
            <Head
              columns={[
                "Folder",
                "Role",
                "Reachable",
                "Free",
                "Backups",
                "Kavrin works there",
                "Serves",
              ]}
            />
            <Table.Body>
              {places.data.map((p) => (
                <Table.Row key={p.id} bg="transparent">
                  <Table.Cell minW="260px" maxW="410px">
                    <PathText path={p.path} size="12px" />
                    {lookedAt.has(p.path) && (
                      <Text color="muted" fontSize="12px">
                        looked through {moment(lookedAt.get(p.path) ?? "", zone, now)}
                      </Text>
                    )}
                    {p.limits.map((l) => (
                      <Text key={l} color="caution" fontSize="12px">
                        ▲ {l}
                      </Text>
                    ))}
                    {p.fullAt && (
                      <Text color="caution" fontSize="12px">
                        ▲ full {moment(p.fullAt, zone, now)}, as it fills now
                      </Text>
                    )}
                    {p.clockAheadSeconds !== 0 && (
                      <Text color="caution" fontSize="12px">
                        ▲ its clock is {age(Math.abs(p.clockAheadSeconds) * 1000)}{" "}
                        {p.clockAheadSeconds > 0 ? "ahead of" : "behind"} this machine&apos;s
                      </Text>
                    )}
                    {p.cautions.map((c) => (
                      <Text key={c} color="caution" fontSize="12px">
                        ▲ {c}
                      </Text>
                    ))}
                    {p.differences.map((d) => (
                      <Text key={d} color="muted" fontSize="12px">
                        {d}
                      </Text>
                    ))}
                  </Table.Cell>
                  <Table.Cell whiteSpace="nowrap">{ROLE[p.role]}</Table.Cell>
                  <Table.Cell color={p.here ? "ink" : "loss"}>{p.here ? "yes" : "away"}</Table.Cell>
                  <Table.Cell whiteSpace="nowrap">{p.here ? size(p.free) : "unknown"}</Table.Cell>
                  <Table.Cell whiteSpace="nowrap">
                    {p.role === "RECOVERY" ? `${p.copies}, ${size(p.bytes)}` : "·"}
                    {p.binBytes > 0 && (
                      <Text color="muted" fontSize="12px">
                        and {size(p.binBytes)} in the bin
                      </Text>
                    )}
                    {p.holdings.length > 1 &&
                      p.holdings.map((h) => (
                        <Text key={h.project} color="muted" fontSize="12px">
                          {h.project}: {h.copies}, {size(h.bytes)}
                        </Text>
                      ))}
                  </Table.Cell>
                  <Table.Cell>
                    <Hours place={p} />
                  </Table.Cell>
                  <Table.Cell>
                    {!p.project && p.serves.join(", ")}
                    {p.project && (
                      <Flex gap="1.5" wrap="wrap" align="baseline">
                        <Text>{p.serves.join(", ")}</Text>
                        <Layout project={p.project} name={p.serves.join(", ")} />
                        <ClearOut project={p.project} name={p.serves.join(", ")} />
                      </Flex>
                    )}
                  </Table.Cell>
                </Table.Row>
              ))}
            </Table.Body>
          </Table.Root>
        </Table.ScrollArea>
      </Box>
      <Room />
      <Search />
    </Box>
  );
}
