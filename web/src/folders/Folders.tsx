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
import { phrase } from "../words/phrase";

const ROLE: Record<string, string> = {
  WORK: phrase("folders.workLiesHere"),
  RECOVERY: phrase("folders.asBackups"),
  PROGRAM: phrase("folders.lookedIntoToo"),
  SETTINGS: phrase("folders.programSettings"),
};

export function Folders() {
  const places = useFolders();
  const { search } = useSearch();
  const { go } = useGo();
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow(60_000);
  if (places.isPending) return <Loading what={phrase("folders.lookingAtTheFolders")} />;
  if (!places.data) return <Failure error={places.error} />;
  if (places.data.length === 0) {
    return (
      <Empty title={phrase("folders.noFoldersYet")}>
        <Text mb="3">{phrase("folders.foldersHaveARoleTheWork")}</Text>
        <Main onClick={() => go("/start")}>{phrase("folders.sayWhereTheWorkLies")}</Main>
      </Empty>
    );
  }
  const latest = search.data?.latest;
  const lookedAt = new Map(latest?.looked.map((l) => [l.place, latest.ended]));
  const away = places.data.filter((p) => !p.here).length;
  return (
    <Box>
      <PageHead
        title={
          away === 0
            ? phrase("folders.allFoldersAreReachable")
            : phrase("folders.away", { folders: count(away, "folder") })
        }
        under={phrase("folders.eachFolderKavrinWritesToCarries")}
      />
      <Box px="4" py="2">
        <Table.ScrollArea
          position="relative"
          tabIndex={0}
          role="region"
          aria-label={phrase("folders.foldersTable")}
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
                phrase("common.folder"),
                phrase("folders.role"),
                phrase("folders.reachable"),
                phrase("folders.free"),
                phrase("folders.backups"),
                phrase("folders.kavrinWorksThere"),
                phrase("folders.serves"),
              ]}
            />
            <Table.Body>
              {places.data.map((p) => (
                <Table.Row key={p.id} bg="transparent">
                  <Table.Cell minW="260px" maxW="410px">
                    <PathText path={p.path} size="12px" />
                    {lookedAt.has(p.path) && (
                      <Text color="muted" fontSize="12px">
                        {phrase("folders.lookedThrough", {
                          moment: moment(lookedAt.get(p.path) ?? "", zone, now),
                        })}
                      </Text>
                    )}
                    {p.limits.map((l) => (
                      <Text key={l} color="caution" fontSize="12px">
                        ▲ {l}
                      </Text>
                    ))}
                    {p.fullAt && (
                      <Text color="caution" fontSize="12px">
                        {phrase("folders.fullAsItFillsNow", {
                          moment: moment(p.fullAt, zone, now),
                        })}
                      </Text>
                    )}
                    {p.clockAheadSeconds !== 0 && (
                      <Text color="caution" fontSize="12px">
                        {phrase("folders.itsClockIsThisMachines", {
                          age: age(Math.abs(p.clockAheadSeconds) * 1000),
                          side:
                            p.clockAheadSeconds > 0
                              ? phrase("folders.aheadOf")
                              : phrase("folders.behind"),
                        })}
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
                  <Table.Cell color={p.here ? "ink" : "loss"}>
                    {p.here ? phrase("folders.yes") : phrase("folders.away2")}
                  </Table.Cell>
                  <Table.Cell whiteSpace="nowrap">
                    {p.here ? size(p.free) : phrase("folders.unknown")}
                  </Table.Cell>
                  <Table.Cell whiteSpace="nowrap">
                    {p.role === "RECOVERY" ? `${p.copies}, ${size(p.bytes)}` : "·"}
                    {p.binBytes > 0 && (
                      <Text color="muted" fontSize="12px">
                        {phrase("folders.andInTheBin", { size: size(p.binBytes) })}
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
