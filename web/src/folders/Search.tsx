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

/** "Looked into 214 folders, 3 120 files, 21 May 14:20: 12 belong to a document." */
function Progress({ search, zone, now }: { search: SearchRecord; zone: string; now: number }) {
  const seen = `${count(search.folders, "folder")}, ${count(search.files, "file")}, ${search.read} of them read (${size(search.bytes)})`;
  if (search.ended === undefined) {
    return (
      <Text fontSize="13px" role="status">
        Looking: {seen}. Now in{" "}
        <Text as="span" fontFamily="mono" fontSize="12px" color="muted">
          {search.at}
        </Text>
      </Text>
    );
  }
  const closed = search.looked.flatMap((l) => l.closed);
  const took = new Date(search.ended).getTime() - new Date(search.started).getTime();
  return (
    <Box fontSize="13px" role="status">
      <Text>
        Last looked {moment(search.ended, zone, now)}, in {age(took)}: {seen};{" "}
        {count(search.found, "file")} more found.
        {search.cancelled && " It was stopped before the end."}
      </Text>
      {search.problem && <Text color="caution">▲ {search.problem}</Text>}
      {search.looked.length > 0 && (
        <Box asChild color="muted" fontSize="12px">
          <details>
            <summary>Where was looked</summary>
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
          ▲ {count(closed.length, "folder")} could not be looked into:{" "}
          {closed.slice(0, 3).join(", ")}
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
      <Head columns={["File", "Belongs to", "Known", "Written", ""]} />
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
              {percent(s.share)} of {size(s.size)}
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap">{moment(s.modified, props.zone, props.now)}</Table.Cell>
            <Table.Cell whiteSpace="nowrap">
              {s.inStore && s.standing === "ACCEPTED" ? (
                <Text color="muted">taken in as a version</Text>
              ) : s.standing === "OPEN" ? (
                <Flex gap="1">
                  <Quiet
                    color="ink"
                    loading={props.taking === s.id}
                    onClick={() => (s.inStore ? props.takeIn(s.id) : props.decide(s.id, true))}
                  >
                    {s.inStore ? "Take it in" : "It is one"}
                  </Quiet>
                  <Quiet onClick={() => props.decide(s.id, false)}>It is not</Quiet>
                </Flex>
              ) : (
                <Flex gap="1" align="center" color="muted">
                  {s.standing === "ACCEPTED" ? "among its versions" : "refused"}
                  <Quiet
                    onClick={() =>
                      s.inStore ? props.takeIn(s.id) : props.decide(s.id, s.standing !== "ACCEPTED")
                    }
                  >
                    {s.standing === "ACCEPTED" ? "remove" : "add it after all"}
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
            ? `${count(open, "file")} may belong to your documents`
            : "Copies under other names"}
        </Text>
        <Side size="xs" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          Also look in…
        </Side>
        {runs ? (
          <Side size="xs" loading={cancel.isPending} onClick={() => cancel.mutate()}>
            Stop looking
          </Side>
        ) : (
          <Main size="xs" loading={begin.isPending} onClick={() => begin.mutate()}>
            Look everywhere now
          </Main>
        )}
      </Flex>
      <Text fontSize="13px" color="muted">
        Every folder is looked through, hidden ones too. Files that share content with a document
        are shown here, whatever their name. In snapshots and in other tools&apos; folders nothing
        is ever written.
      </Text>
      {search.data?.snapshots.map((folder) => (
        <Flex key={folder} gap="2" mt="1" align="baseline" fontSize="13px" wrap="wrap">
          <Text>This disk keeps snapshots of your work:</Text>
          <PathText path={folder} />
          <Quiet
            color="ink"
            loading={lookIn.isPending && lookIn.variables === folder}
            onClick={() => lookIn.mutate(folder)}
          >
            Look into them too
          </Quiet>
        </Flex>
      ))}
      {adding && (
        <Flex gap="2" mt="2" maxW="640px" align="flex-start">
          <Box flex="1">
            <FolderPicker label="Folder to look in too" value={folder} onChange={setFolder} />
          </Box>
          <Side
            size="sm"
            disabled={!folder.startsWith("/")}
            loading={lookIn.isPending}
            onClick={() => lookIn.mutate(folder, { onSuccess: () => setAdding(false) })}
          >
            Add it
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
          {latest ? "Nothing was found under another name." : "Nobody looked yet."}
        </Text>
      )}
    </Box>
  );
}
