import { Box, Flex, Text } from "@chakra-ui/react";
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
import { MomentField } from "../shared/MomentField";
import { Failure, Loading, Main, PageHead, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { count, given, size } from "../shared/words";
import { FolderPicker } from "../start/FolderPicker";
import { formOf, NOWHERE, type Place, placeOf, StorePlace } from "./StorePlace";
import { phrase } from "../words/phrase";

function Chosen(props: { place: Place; project: StoredProject }) {
  const { project } = props;
  const [work, setWork] = useState(project.folder);
  const [recovery, setRecovery] = useState("");
  const [until, setUntil] = useState<string>();
  const [words, setWords] = useState("");
  const zone = useSession().data?.zone ?? "UTC";
  const bring = useBringBack((job) => setWords(job.words ?? ""));
  const { go } = useGo();
  const asked = placeOf(props.place);
  const ready = asked && work.startsWith("/") && recovery.startsWith("/");
  const came = bring.data;
  if (came) {
    return (
      <Box fontSize="13px" role="status">
        <Text fontWeight="650">
          {phrase("elsewhere.isBackWrittenBrought", {
            name: project.name,
            files: count(came.files.length, "file"),
            backups: count(came.backups, "backup"),
            size: size(came.bytes),
          })}
        </Text>
        {came.left.length > 0 && (
          <Text>
            {phrase("elsewhere.leftAloneBecauseAFileStood", { left: came.left.join(", ") })}
          </Text>
        )}
        {came.failed.map((f) => (
          <Text key={f} color="loss" overflowWrap="anywhere">
            ▲ {f}
          </Text>
        ))}
        <Main mt="2" onClick={() => go("/overview")}>
          {phrase("elsewhere.showTheOverview")}
        </Main>
      </Box>
    );
  }
  return (
    <Flex direction="column" gap="2">
      <Box>
        <Text fontSize="13px" aria-hidden>
          {phrase("elsewhere.folderForItsFiles")}
        </Text>
        <FolderPicker
          label={phrase("elsewhere.folderForItsFiles")}
          value={work}
          onChange={setWork}
        />
      </Box>
      <Box>
        <Text fontSize="13px" aria-hidden>
          {phrase("elsewhere.folderForItsBackupsOnAnother")}
        </Text>
        <FolderPicker
          label={phrase("elsewhere.folderForItsBackups")}
          value={recovery}
          onChange={setRecovery}
        />
      </Box>
      <Box>
        <MomentField
          label={phrase("elsewhere.asOf")}
          value={until}
          zone={zone}
          onChange={setUntil}
        />
        <Text color="muted" fontSize="12px">
          {phrase("elsewhere.emptyForAllThereIsElse")}
        </Text>
      </Box>
      <Box>
        <Main
          disabled={!ready}
          loading={bring.isPending}
          loadingText={words || phrase("elsewhere.askingTheStore")}
          onClick={() =>
            asked &&
            bring.mutate({
              place: asked,
              begin: project.begin,
              work: work.trim(),
              recovery: recovery.trim(),
              ...given({ until }),
            })
          }
        >
          {phrase("elsewhere.bringBack", { name: project.name })}
        </Main>
        <Text fontSize="12px" color="muted" mt="1">
          {phrase("elsewhere.filesThatStandInTheFolder")}
        </Text>
      </Box>
      <Failure error={bring.error} />
    </Flex>
  );
}

/** From nothing: a machine that knows a store's address and key gets its projects back. */
export function BringBack() {
  const from = useStartedFrom();
  if (from.isPending) return <Loading what={phrase("elsewhere.opening")} />;
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
        title={phrase("elsewhere.bringProjectsBackFromAStore")}
        under={phrase("elsewhere.theirVersionsTheirPlansAndTheir")}
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
              {phrase("elsewhere.showWhatItHas")}
            </Main>
          </Box>
          <Failure error={look.error} />
        </Flex>
        <Box flex="1" minW="300px" maxW="560px" aria-live="polite">
          {look.data?.length === 0 && (
            <Text fontSize="13px">{phrase("elsewhere.theStoreAnswersItHasNo")}</Text>
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
                  {p.newest &&
                    phrase("elsewhere.theNewestWorkFrom", { moment: moment(p.newest, zone, now) })}
                </Text>
              </Box>
              <Side aria-pressed={chosen?.begin === p.begin} onClick={() => setChosen(p)}>
                {phrase("elsewhere.choose")}
              </Side>
            </Flex>
          ))}
          {chosen && <Chosen key={chosen.begin} place={place} project={chosen} />}
        </Box>
      </Flex>
    </Box>
  );
}
