import { Box, Flex, Grid, Input, Text } from "@chakra-ui/react";
import { useMemo, useRef, useState } from "react";
import type { DeskView, VersionsView } from "../api/schema";
import { useVersionPages, useVersion } from "../api/versions";
import { useRecover, useIncidents, useMark, useSession, useVersions } from "../api/queries";
import { useGo, useMarkers, useWhere } from "../app/where";
import { Questions } from "../loss/Questions";
import { RestoreDialog } from "../restore/RestoreDialog";
import { useKeys } from "../shared/keys";
import { Empty, Failure, Figure, Key, Loading, Main, PageHead, PathText } from "../shared/parts";
import { moment } from "../shared/dates";
import { age, count, KIND, lostSince, lostTime, size } from "../shared/words";
import { useNow } from "../shared/useNow";
import { BinList } from "./BinList";
import { CopyNow } from "./CopyNow";
import { GoOn, trialOf } from "./GoOn";
import { HowItStands } from "./HowItStands";
import { Who } from "./Who";
import { Inspector } from "./Inspector";
import { StoredList } from "./StoredList";
import { VersionTable } from "./VersionTable";
import { Timeline } from "./timeline/Timeline";
import { phrase } from "../words/phrase";

function Sentence({
  trail,
  desk,
  now,
}: {
  trail: VersionsView;
  desk: DeskView | undefined;
  now: number;
}) {
  const incident = desk?.incident;
  if (incident?.open && desk?.lostSeconds !== undefined) {
    return (
      <>
        {phrase("versions.lostSoFarIfYouRestore", {
          lostTime: lostTime(desk.lostSeconds * 1000),
          b: (text) => (
            <Text as="span" color="loss">
              {text}
            </Text>
          ),
        })}
      </>
    );
  }
  const { exposure } = trail;
  if (exposure.quiet && exposure.open.state === "UNKNOWN")
    return <>{phrase("versions.whatIsSavedIsSafeWhether")}</>;
  if (exposure.quiet && exposure.open.state === "ELSEWHERE")
    return <>{phrase("versions.whatIsSavedIsSafeIt")}</>;
  if (exposure.quiet) return <>{phrase("versions.nothingOfThisWouldBeLost")}</>;
  const since = exposure.open.mayHoldWork ? exposure.programDiesSince : exposure.fileLostSince;
  const lost = lostSince(since, exposure, now);
  if (lost === undefined) return <>{phrase("versions.noOtherCopyOfThisFile")}</>;
  const run = trail.live?.run;
  if (run?.heldStep !== undefined && run.heldWritten !== undefined && run.heldRun === run.run) {
    return (
      <>
        {phrase("versions.youWouldLoseOfComputingIf", {
          steps: (
            <Text as="span" color="loss">
              {count(run.step - run.heldStep, "step")}
            </Text>
          ),
          age: age(new Date(run.written).getTime() - new Date(run.heldWritten).getTime()),
        })}
      </>
    );
  }
  return (
    <>
      {phrase("versions.youWouldLoseOfWorkIf", {
        age: (
          <Text as="span" color="loss">
            {age(lost)}
          </Text>
        ),
        what: exposure.open.mayHoldWork
          ? phrase("versions.theProgramDied")
          : phrase("versions.theFileWereLost"),
      })}
    </>
  );
}

function matches(find: string, text: string): boolean {
  return text.toLowerCase().includes(find.toLowerCase());
}

export function Versions() {
  const { inHand, overview } = useWhere();
  const document = inHand?.document.id ?? "";
  const trail = useVersions(document);
  const desk = useRecover(document);
  const incidents = useIncidents(inHand?.project.id ?? "");
  const session = useSession();
  const now = useNow();
  const { go } = useGo();
  const markers = useMarkers();
  const [copying, setCopying] = useState(false);
  const [restoring, setRestoring] = useState(false);
  const [taking, setTaking] = useState(false);
  const [find, setFind] = useState("");
  const findField = useRef<HTMLInputElement>(null);
  const mark = useMark(document);

  const zone = session.data?.zone ?? "UTC";
  const states = useVersionPages(document, trail.data);
  const all = states.list;
  const shown = useMemo(
    () =>
      find === ""
        ? all
        : all.filter(
            (s) =>
              s !== undefined &&
              matches(
                find,
                [
                  moment(s.workTo, zone, now),
                  s.verdict,
                  s.keptBecause,
                  ...s.copies.map((c) => `${KIND[c.kind] ?? ""} ${c.path} ${c.note ?? ""}`),
                  ...s.marks.map((m) => m.mark),
                ].join(" "),
              ),
          ),
    [all, find, zone, now],
  );
  const b = markers.b || (desk.data?.recommended ?? "");
  const a = markers.a || (desk.data?.against ?? "");
  const chosen = markers.s || b || all[0]?.id || "";
  const state = useVersion(document, chosen, states) ?? all[0];
  const choose = (s: string) => {
    const gathered = trail.data?.older.find((g) => g.state === s);
    if (gathered) states.want(gathered.index);
    markers.set({ s });
  };
  const step = (by: number) => {
    const to = shown.findIndex((s) => s?.id === chosen) + by;
    const next = shown[to];
    if (next) choose(next.id);
    if (find === "") states.want(to + 20 * by);
  };
  useKeys({
    n: () => setCopying(true),
    "[": () => step(1),
    "]": () => step(-1),
    a: () => markers.set({ a: chosen }),
    b: () => markers.set({ b: chosen }),
    c: () => go(`/compare/${document}?a=${a}&b=${b}`),
    r: () => setRestoring(true),
    g: () => go(`/recover-several/${document}?at=${state?.workTo ?? ""}`),
    p: () => {
      const pinned = state?.marks.some((m) => m.mark === "pinned") ?? false;
      mark.mutate({ state: chosen, mark: "pinned", on: !pinned });
    },
    "/": () => findField.current?.focus(),
  });

  if (overview.isPending || (document !== "" && trail.isPending))
    return <Loading what={phrase("versions.readingTheVersions")} />;
  if (!inHand) {
    return (
      <Empty title={phrase("common.noDocumentYet")}>
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("versions.sayWhereYourWorkLies")}
        </Main>
      </Empty>
    );
  }
  if (!trail.data) return <Failure error={trail.error} />;
  const main = trialOf(inHand.document.name, inHand.project.documents);

  const { count: there } = trail.data;
  const crash = desk.data?.incident?.open ? new Date(desk.data.crash).getTime() : undefined;
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={<Sentence trail={trail.data} desk={desk.data} now={now} />}
        under={<PathText path={trail.data.path} />}
      >
        <Figure
          value={count(there.states, "version")}
          label={`${count(there.copies, "copy")}, ${size(there.bytes)}`}
        />
        {there.oldest && (
          <Figure
            value={age(now - new Date(there.oldest).getTime())}
            label={phrase("versions.oldestVersionKept")}
          />
        )}
        <Figure value={count(there.folders, "folder")} label={phrase("versions.haveCopiesOfIt")} />
        <CopyNow
          document={document}
          modified={trail.data.live?.modified}
          now={now}
          open={copying}
          onOpen={setCopying}
        />
        {desk.data?.incident?.open && (
          <Main onClick={() => go(`/recover/${document}`)}>
            {phrase("versions.recoverTheFile")} <Key>6</Key>
          </Main>
        )}
      </PageHead>
      <Questions document={document} zone={zone} now={now} />
      {!desk.data?.incident?.open && (
        <Box px="4" pt="1">
          <HowItStands document={document} live={trail.data.live} now={now} zone={zone} />
          <GoOn key={document} trail={trail.data} />
        </Box>
      )}
      <Timeline
        key={document}
        document={document}
        trail={trail.data}
        incidents={(incidents.data ?? []).filter((i) => i.documents.includes(document))}
        now={now}
        zone={zone}
        a={a}
        b={b}
        chosen={chosen}
        onChoose={choose}
      />
      <Grid
        templateColumns={{ base: "minmax(0, 1fr)", lg: "1fr 300px" }}
        flex={{ base: "none", lg: "1" }}
        gridTemplateRows={{ base: "520px auto", lg: "minmax(0, 1fr)" }}
        minH="160px"
        mt="2"
        borderTop="1px solid"
        borderColor="hairline"
      >
        <Flex direction="column" minH="0" minW="0">
          <Flex px="3" py="1" columnGap="3" align="center" wrap={{ base: "wrap", lg: "nowrap" }}>
            <Input
              ref={findField}
              size="xs"
              w="240px"
              borderColor="hairline"
              placeholder={phrase("versions.findInTheVersions")}
              aria-label={phrase("versions.findInTheVersions2")}
              value={find}
              onChange={(e) => {
                setFind(e.target.value);
                if (e.target.value !== "") states.wantAll();
              }}
            />
            <Text fontSize="12px" color="muted">
              {find === ""
                ? phrase("versions.newestWorkFirst")
                : phrase("versions.of2", { shown: shown.length, here: states.here })}
              {find !== "" && states.here < all.length && phrase("versions.readingOn")}
            </Text>
            <Who document={document} zone={zone} now={now} />
            <Flex ml="auto" columnGap="3">
              <StoredList document={document} zone={zone} now={now} />
              <BinList document={document} bin={trail.data.bin} zone={zone} now={now} />
            </Flex>
          </Flex>
          <Box flex="1" minH="0">
            <VersionTable
              states={shown}
              a={a}
              b={b}
              chosen={chosen}
              crash={crash}
              now={now}
              zone={zone}
              onChoose={choose}
              onMissing={states.want}
            />
          </Box>
        </Flex>
        <Box borderLeft="1px solid" borderColor="hairline" minH="0">
          {state && (
            <Inspector
              document={document}
              state={state}
              elsewhere={trail.data.elsewhere.filter((c) => c.state === state.id)}
              zone={zone}
              now={now}
              onRestore={() => setRestoring(true)}
              {...(main && { into: main.name, onTakeOver: () => setTaking(true) })}
              onTogether={() => go(`/recover-several/${document}?at=${state.workTo}`)}
              onPack={() => go(`/pack/${document}?state=${state.id}`)}
              onWithLinks={() => go(`/recover-several/${document}?state=${state.id}`)}
              onCompare={() => go(`/compare/${document}?a=${a}&b=${state.id === a ? b : state.id}`)}
              onA={() => markers.set({ a: state.id })}
              onB={() => markers.set({ b: state.id })}
            />
          )}
        </Box>
      </Grid>
      {state && taking && main && (
        <RestoreDialog
          document={main.id}
          of={document}
          state={state}
          zone={zone}
          now={now}
          onClose={() => setTaking(false)}
        />
      )}
      {state && restoring && (
        <RestoreDialog
          document={document}
          state={state}
          zone={zone}
          now={now}
          onNext={() => step(1)}
          onClose={() => setRestoring(false)}
        />
      )}
    </Flex>
  );
}
