import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  type PlaceRequest,
  type StoredProject,
  useBringBack,
  useLookIntoStore,
  useStartedFrom,
} from "../api/elsewhere";
import { useSession } from "../api/queries";
import { useGo } from "../app/where";
import { Labelled } from "../shared/fields";
import { Failure, Loading, Main, PageHead, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { FolderPicker } from "../start/FolderPicker";
import { formOf, NOWHERE, type Place, placeOf, StorePlace } from "./StorePlace";

function Chosen(props: { place: Place; project: StoredProject }) {
  const { project } = props;
  const [work, setWork] = useState(project.folder);
  const [recovery, setRecovery] = useState("");
  const [until, setUntil] = useState("");
  const [words, setWords] = useState("");
  const bring = useBringBack((job) => setWords(job.words ?? ""));
  const { go } = useGo();
  const asked = placeOf(props.place);
  const ready = asked && work.startsWith("/") && recovery.startsWith("/");
  const came = bring.data;
  if (came) {
    return (
      <Box fontSize="13px" role="status">
        <Text fontWeight="650">
          {project.name} is back: {count(came.files.length, "file")} written,{" "}
          {count(came.backups, "backup")} brought, {size(came.bytes)}.
        </Text>
        {came.left.length > 0 && (
          <Text>Left alone, because a file stood there: {came.left.join(", ")}</Text>
        )}
        {came.failed.map((f) => (
          <Text key={f} color="loss" overflowWrap="anywhere">
            ▲ {f}
          </Text>
        ))}
        <Main mt="2" onClick={() => go("/overview")}>
          Show the overview
        </Main>
      </Box>
    );
  }
  return (
    <Flex direction="column" gap="2">
      <Box>
        <Text fontSize="13px" aria-hidden>
          Folder for its files
        </Text>
        <FolderPicker label="Folder for its files" value={work} onChange={setWork} />
      </Box>
      <Box>
        <Text fontSize="13px" aria-hidden>
          Folder for its backups, on another disk if there is one
        </Text>
        <FolderPicker label="Folder for its backups" value={recovery} onChange={setRecovery} />
      </Box>
      <Labelled label="As of" under="Empty for all there is; else nothing newer comes back.">
        <Input
          size="xs"
          type="datetime-local"
          borderColor="hairline"
          value={until}
          onChange={(e) => setUntil(e.target.value)}
        />
      </Labelled>
      <Box>
        <Main
          disabled={!ready}
          loading={bring.isPending}
          loadingText={words || "Asking the store"}
          onClick={() =>
            asked &&
            bring.mutate({
              place: asked,
              begin: project.begin,
              work: work.trim(),
              recovery: recovery.trim(),
              ...(until !== "" && { until: new Date(until).toISOString() }),
            })
          }
        >
          Bring {project.name} back
        </Main>
        <Text fontSize="12px" color="muted" mt="1">
          Files that stand in the folder already are left alone.
        </Text>
      </Box>
      <Failure error={bring.error} />
    </Flex>
  );
}

/** From nothing: a machine that knows a store's address and key gets its projects back. */
export function BringBack() {
  const from = useStartedFrom();
  if (from.isPending) return <Loading what="Opening" />;
  return <From said={from.data ?? undefined} />;
}

function From({ said }: { said: PlaceRequest | undefined }) {
  const [place, setPlace] = useState<Place>(() => (said ? formOf(said) : NOWHERE));
  const [chosen, setChosen] = useState<StoredProject>();
  const look = useLookIntoStore();
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow(60_000);
  const asked = placeOf(place);
  return (
    <Box>
      <PageHead
        title="Bring projects back from a store"
        under="Their versions, their plans and their files, from the store's address and a key alone."
      />
      <Flex px="4" py="2" gap="8" wrap="wrap" align="start">
        <Flex direction="column" gap="2" flex="1" minW="300px" maxW="480px">
          <StorePlace
            place={place}
            onChange={(p) => {
              setPlace(p);
              setChosen(undefined);
              look.reset();
            }}
          />
          <Box>
            <Main
              disabled={!asked}
              loading={look.isPending}
              onClick={() => asked && look.mutate(asked)}
            >
              Show what it has
            </Main>
          </Box>
          <Failure error={look.error} />
        </Flex>
        <Box flex="1" minW="300px" maxW="560px" aria-live="polite">
          {look.data?.length === 0 && (
            <Text fontSize="13px">The store answers. It has no project.</Text>
          )}
          {look.data?.map((p) => (
            <Flex
              key={p.begin}
              gap="3"
              py="2"
              align="center"
              borderTop="1px solid"
              borderColor="hairline"
              fontSize="13px"
            >
              <Box flex="1" minW="0">
                <Text fontWeight="650">{p.name}</Text>
                <Text color="muted">
                  {count(p.documents, "document")}, {count(p.copies, "version")}, {size(p.bytes)}
                  {p.newest && `, the newest work from ${moment(p.newest, zone, now)}`}
                </Text>
              </Box>
              <Side aria-pressed={chosen?.begin === p.begin} onClick={() => setChosen(p)}>
                Choose
              </Side>
            </Flex>
          ))}
          {chosen && <Chosen key={chosen.begin} place={place} project={chosen} />}
        </Box>
      </Flex>
    </Box>
  );
}
