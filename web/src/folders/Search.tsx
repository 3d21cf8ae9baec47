import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Search as SearchRecord, Stray } from "../api/schema";
import { useSearch } from "../api/finding";
import { useSession } from "../api/queries";
import { Failure, Main, PathText, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { age, count, size } from "../shared/words";
import { FolderPicker } from "../start/FolderPicker";
import { Head } from "../shared/Head";
import { phrase } from "../words/phrase";

/** "Looked into 214 folders, 3 120 files, 21 May 14:20: 12 belong to a document." */
function Progress({ search, zone, now }: { search: SearchRecord; zone: string; now: number }) {
  const seen = phrase("folders.ofThemRead", {
    folders: count(search.folders, "folder"),
    files: count(search.files, "file"),
    read: search.read,
    size: size(search.bytes),
  });
  if (search.ended === undefined) {
    return (
      <Text fontSize="13px" role="status">
        {phrase("folders.lookingNowIn", {
          seen,
          at: (
            <Text as="span" fontFamily="mono" fontSize="12px" color="muted">
              {search.at}
            </Text>
          ),
        })}
      </Text>
    );
  }
  const closed = search.looked.flatMap((l) => l.closed);
  const took = new Date(search.ended).getTime() - new Date(search.started).getTime();
  return (
    <Box fontSize="13px" role="status">
      <Text>
        {phrase("folders.lastLookedInMoreFound", {
          moment: moment(search.ended, zone, now),
          age: age(took),
          seen,
          files: count(search.found, "file"),
          stopped: search.cancelled && ` ${phrase("folders.itWasStoppedBeforeTheEnd")}`,
        })}
      </Text>
      {search.problem && <Text color="caution">▲ {search.problem}</Text>}
      {search.looked.length > 0 && (
        <Box asChild color="muted" fontSize="12px">
          <details>
            <summary>{phrase("folders.whereWasLooked")}</summary>
            {search.looked.map((l) => (
              <Text key={l.place} fontFamily="mono">
                {l.place} · {count(l.folders, "folder")}, {count(l.files, "file")}
              </Text>
            ))}
          </details>
        </Box>
      )}
      {closed.length > 0 && (
        <Text color="caution">
          {phrase("folders.couldNotBeLookedInto", {
            folders: count(closed.length, "folder"),
            closed: closed.slice(0, 3).join(", "),
          })}
        </Text>
      )}
    </Box>
  );
}

const percent = (share: number) => `${Math.round(share * 100)} %`;

function Strays(props: {
  strays: Stray[];
  zone: string;
  now: number;
  decide: (id: string, accepted: boolean) => void;
  takeIn: (id: string) => void;
  /** Being fetched now. */
  taking: string | undefined;
}) {
  return (
    <Table.Root size="sm" fontSize="13px" mt="2" css={{ "& td": { borderColor: "hairline" } }}>
      <Head
        columns={[
          phrase("folders.file"),
          phrase("folders.belongsTo"),
          phrase("folders.known"),
          phrase("folders.written"),
          "",
        ]}
      />
      <Table.Body>
        {props.strays.map((s) => (
          <Table.Row key={s.id} bg="transparent" verticalAlign="top">
            <Table.Cell>
              <PathText path={s.path} />
            </Table.Cell>
            <Table.Cell>
              {s.documentName}
              <Text fontSize="12px" color="muted">
                {s.words}
              </Text>
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap">
              {phrase("folders.of2", { percent: percent(s.share), size: size(s.size) })}
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap">{moment(s.modified, props.zone, props.now)}</Table.Cell>
            <Table.Cell whiteSpace="nowrap">
              {s.inStore && s.standing === "ACCEPTED" ? (
                <Text color="muted">{phrase("folders.takenInAsAVersion")}</Text>
              ) : s.standing === "OPEN" ? (
                <Flex gap="1">
                  <Quiet
                    color="ink"
                    loading={props.taking === s.id}
                    onClick={() => (s.inStore ? props.takeIn(s.id) : props.decide(s.id, true))}
                  >
                    {s.inStore ? phrase("folders.takeItIn") : phrase("folders.itIsOne")}
                  </Quiet>
                  <Quiet onClick={() => props.decide(s.id, false)}>
                    {phrase("folders.itIsNot")}
                  </Quiet>
                </Flex>
              ) : (
                <Flex gap="1" align="center" color="muted">
                  {s.standing === "ACCEPTED"
                    ? phrase("folders.amongItsVersions")
                    : phrase("folders.refused")}
                  <Quiet
                    onClick={() =>
                      s.inStore ? props.takeIn(s.id) : props.decide(s.id, s.standing !== "ACCEPTED")
                    }
                  >
                    {s.standing === "ACCEPTED"
                      ? phrase("folders.remove")
                      : phrase("folders.addItAfterAll")}
                  </Quiet>
                </Flex>
              )}
            </Table.Cell>
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  );
}

/** Looks through every place for files that belong to documents, whatever they are called. */
export function Search() {
  const { search, begin, cancel, decide, takeIn, lookIn } = useSearch();
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow(60_000);
  const [folder, setFolder] = useState("");
  const [adding, setAdding] = useState(false);
  const latest = search.data?.latest;
  const runs = latest !== undefined && latest.ended === undefined;
  const strays = search.data?.strays ?? [];
  const open = strays.filter((s) => s.standing === "OPEN").length;
  return (
    <Box px="4" py="3" borderTop="1px solid" borderColor="hairline">
      <Flex gap="3" align="center">
        <Text as="h2" fontSize="16px" fontWeight="650" flex="1">
          {open > 0
            ? phrase("folders.mayBelongToYourDocuments", { files: count(open, "file") })
            : phrase("folders.copiesUnderOtherNames")}
        </Text>
        <Side size="xs" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          {phrase("folders.alsoLookIn")}
        </Side>
        {runs ? (
          <Side size="xs" loading={cancel.isPending} onClick={() => cancel.mutate()}>
            {phrase("folders.stopLooking")}
          </Side>
        ) : (
          <Main size="xs" loading={begin.isPending} onClick={() => begin.mutate()}>
            {phrase("folders.lookEverywhereNow")}
          </Main>
        )}
      </Flex>
      <Text fontSize="13px" color="muted">
        {phrase("folders.everyFolderIsLookedThroughHidden")}
      </Text>
      {search.data?.snapshots.map((folder) => (
        <Flex key={folder} gap="2" mt="1" align="baseline" fontSize="13px" wrap="wrap">
          <Text>{phrase("folders.thisDiskKeepsSnapshotsOfYour")}</Text>
          <PathText path={folder} />
          <Quiet
            color="ink"
            loading={lookIn.isPending && lookIn.variables === folder}
            onClick={() => lookIn.mutate(folder)}
          >
            {phrase("folders.lookIntoThemToo")}
          </Quiet>
        </Flex>
      ))}
      {adding && (
        <Flex gap="2" mt="2" maxW="640px" align="flex-start">
          <Box flex="1">
            <FolderPicker
              label={phrase("folders.folderToLookInToo")}
              value={folder}
              onChange={setFolder}
            />
          </Box>
          <Side
            size="sm"
            disabled={!folder.startsWith("/")}
            loading={lookIn.isPending}
            onClick={() => lookIn.mutate(folder, { onSuccess: () => setAdding(false) })}
          >
            {phrase("folders.addIt")}
          </Side>
        </Flex>
      )}
      <Failure
        error={
          search.error ??
          begin.error ??
          cancel.error ??
          decide.error ??
          takeIn.error ??
          lookIn.error
        }
      />
      <Box mt="2">{latest && <Progress search={latest} zone={zone} now={now} />}</Box>
      {strays.length > 0 ? (
        <Strays
          strays={strays}
          zone={zone}
          now={now}
          decide={(id, accepted) => decide.mutate({ id, accepted })}
          takeIn={(id) => takeIn.mutate(id)}
          taking={takeIn.isPending ? takeIn.variables : undefined}
        />
      ) : (
        <Text fontSize="13px" color="muted" mt="1">
          {latest
            ? phrase("folders.nothingWasFoundUnderAnotherName")
            : phrase("folders.nobodyLookedYet")}
        </Text>
      )}
    </Box>
  );
}
