import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Project, ProjectLine } from "../api/schema";
import { useApply, useOverview, useProject } from "../api/queries";
import { useGo } from "../app/where";
import { Empty, Failure, Loading, Main, PageHead, Side } from "../shared/parts";
import { age, count, KIND, seconds } from "../shared/words";
import { OwnSettings } from "./OwnSettings";
import { ShareProfile } from "./ShareProfile";
import { toForm, toProfile } from "./profile";
import { ProfileFields } from "./ProfileFields";
import { WatchAtWork } from "./WatchAtWork";
import { phrase } from "../words/phrase";

function Facts({ project }: { project: Project }) {
  const { program } = project;
  const line = (label: string, value: string, mono = false) => (
    <Flex key={label} gap="3" fontSize="13px" py="0.5">
      <Text color="muted" w="210px" flexShrink="0">
        {label}
      </Text>
      <Text fontFamily={mono ? "mono" : "body"}>{value}</Text>
    </Flex>
  );
  return (
    <Box mt="1">
      {line(
        phrase("programs.knownByItsProcess"),
        program.process || phrase("programs.notKnown"),
        true,
      )}
      {line(phrase("programs.lockFile"), program.sessionSign ?? phrase("programs.notKnown"), true)}
      {program.lockText && line(phrase("programs.whatStandsInIt"), program.lockText, true)}
      {program.crashLog &&
        line(
          phrase("programs.crashLog"),
          `${program.crashLog.folder}/${program.crashLog.pattern}` +
            (program.crashLog.words
              ? ` ${phrase("programs.saying", { words: program.crashLog.words })}`
              : ""),
          true,
        )}
      {line(
        phrase("programs.writesACopyOfItsOwn2"),
        program.writesEvery
          ? phrase("programs.every", { age: age(seconds(program.writesEvery) * 1000) })
          : phrase("programs.unknown"),
      )}
      {program.leftovers.map((l) => line(KIND[l.kind] ?? l.kind, `${l.folder}/${l.pattern}`, true))}
      {program.ownFiles.map((o) =>
        line(
          phrase("programs.itsOwnFiles"),
          o.rule.map((name) => `${o.folder}/${name}`).join("  "),
          true,
        ),
      )}
    </Box>
  );
}

function Sheet({ line }: { line: ProjectLine }) {
  const project = useProject(line.id);
  const apply = useApply(line.id);
  const [form, setForm] = useState<ReturnType<typeof toForm>>();
  const [watching, setWatching] = useState(false);
  if (!project.data) return <Loading what={phrase("programs.readingTheProfile")} />;
  const seen = project.data;
  return (
    <Box px="4" py="3" borderBottom="1px solid" borderColor="hairline">
      <Flex align="baseline" gap="3" wrap="wrap">
        <Text as="h2" fontSize="16px" fontWeight="650">
          {seen.program.name}
        </Text>
        <Text fontSize="13px" color="muted" flex="1">
          {phrase("programs.for", {
            name: line.name,
            state: line.programRuns ? phrase("programs.runsNow") : phrase("programs.doesNotRunNow"),
          })}
        </Text>
        {!form && !watching && (
          <Flex gap="2" wrap="wrap">
            <Side size="xs" onClick={() => setWatching(true)}>
              {phrase("programs.watchItAtWork")}
            </Side>
            <ShareProfile project={seen} />
            <Side size="xs" onClick={() => setForm(toForm(seen.program))}>
              {phrase("programs.editTheProfile")}
            </Side>
          </Flex>
        )}
      </Flex>
      {form ? (
        <Box mt="3">
          <ProfileFields
            form={form}
            onChange={setForm}
            at={{ folder: seen.folder, rule: seen.rule }}
          />
          <Failure error={apply.error} />
          <Flex gap="2" mt="3">
            <Main
              loading={apply.isPending}
              onClick={() =>
                apply.mutate(
                  { version: seen.version, plan: seen.plan, program: toProfile(form) },
                  { onSuccess: () => setForm(undefined) },
                )
              }
            >
              {phrase("programs.saveTheProfile")}
            </Main>
            <Side onClick={() => setForm(undefined)}>{phrase("programs.leaveItAsItWas")}</Side>
          </Flex>
        </Box>
      ) : watching ? (
        <WatchAtWork project={seen} onDone={() => setWatching(false)} />
      ) : (
        <>
          {isUnknown(seen) ? (
            <Text fontSize="13px" color="caution" mt="1">
              {phrase("programs.nothingIsKnownOfItsProgram")}
            </Text>
          ) : (
            <Facts project={seen} />
          )}
          <OwnSettings project={seen} />
        </>
      )}
    </Box>
  );
}

const isUnknown = ({ program }: Project) =>
  program.process === "" && program.leftovers.length === 0;

/** What is switched off comes first, then what differs. */
const loudness = (p: ProjectLine) =>
  p.drifts.some((d) => d.off) ? 2 : p.drifts.length > 0 ? 1 : 0;

export function Programs() {
  const overview = useOverview();
  const { go } = useGo();
  if (overview.isPending) return <Loading what={phrase("programs.lookingAtThePrograms")} />;
  const projects = [...(overview.data?.projects ?? [])].sort((a, b) => loudness(b) - loudness(a));
  if (projects.length === 0) {
    return (
      <Empty title={phrase("programs.noProgramIsKnownYet")}>
        <Text mb="3">{phrase("programs.aProfileSaysWhereAProgram")}</Text>
        <Main onClick={() => go("/start")}>{phrase("programs.sayWhereTheWorkLies")}</Main>
      </Empty>
    );
  }
  const running = projects.filter((p) => p.programRuns).length;
  return (
    <Box>
      <PageHead
        title={
          running === 0
            ? phrase("programs.noProgramRunsNow")
            : phrase("programs.running", { programs: count(running, "program") })
        }
        under={phrase("programs.whatEachProgramWritesByItself")}
      />
      {projects.map((p) => (
        <Sheet key={p.id} line={p} />
      ))}
    </Box>
  );
}
