import { Box, Flex, Grid, Slider, Text } from "@chakra-ui/react";
import { type ReactNode, useMemo, useState } from "react";
import type {
  PlanAnswer,
  Plan as PlanRecord,
  Project,
  RunFigures as RunFiguresRecord,
  Why as WhyRecord,
} from "../api/schema";
import { useApply, useExcept, usePlanFigures, useProject, useSession } from "../api/queries";
import { useGo, useWhere } from "../app/where";
import { Empty, Failure, Loading, Main, Notice, PageHead, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { Why } from "../shared/Why";
import { age, count, duration, isDuration, moment, seconds, size } from "../shared/words";
import { Number, Setting } from "../shared/fields";
import { Form } from "./PlanForm";
import { RunRule } from "./RunRule";
import { RecoveryFolders } from "./RecoveryFolders";

/** Intervals worth dragging over, in seconds; 0 is "no timed copies". */
const STOPS = [30, 60, 120, 180, 300, 420, 600, 900, 1200, 1800, 2700, 3600, 5400, 7200, 14400, 0];

function BigFigure(props: { value: string; label: string; why: WhyRecord; tone?: string }) {
  return (
    <Box>
      <Text fontSize="18px" fontWeight="650" color={props.tone ?? "ink"} lineHeight="1.25">
        {props.value}
      </Text>
      <Text fontSize="12px" color="muted">
        {props.label} · <Why why={props.why} name={props.label} />
      </Text>
    </Box>
  );
}

const ageOf = (iso: string | undefined) =>
  iso === undefined ? "unknown" : age(seconds(iso) * 1000);

const reach = (from: string, to: string) => (from === to ? from : `${from} to ${to}`);

function CopyTime({ answer }: { answer: PlanAnswer }) {
  const { copyTime } = answer.inputs;
  return (
    <BigFigure
      value={copyTime ? `${seconds(copyTime).toFixed(2)} s` : "not measured yet"}
      label="one copy takes, in the background"
      why={{
        formula: "median of the copies made so far",
        filled: copyTime ?? "none was made",
        source: "measured here",
      }}
    />
  );
}

/** What to hear before choosing this, and what applying it would drop. */
function Warnings({ warnings, answer }: { warnings: string[]; answer: PlanAnswer }) {
  return (
    <Flex direction="column" gap="2" mt="3">
      {warnings.map((w) => (
        <Notice key={w} tone={w.startsWith("Zero") || w.startsWith("No ") ? "loss" : "caution"}>
          {w}
        </Notice>
      ))}
      {answer.drops > 0 && (
        <Notice tone="caution">
          Applying this moves {answer.drops === 1 ? "1 copy" : `${answer.drops} copies`} (
          {size(answer.dropBytes)}) to the bin. {answer.drops === 1 ? "It" : "They"} can be taken
          back for 14 days, or until the room is needed.
        </Notice>
      )}
    </Flex>
  );
}

function Figures({ answer, plan }: { answer: PlanAnswer; plan: PlanRecord }) {
  const f = answer.figures;
  const past = f.fileLost !== undefined && seconds(f.fileLost) > seconds(plan.accepted);
  const timed = seconds(plan.interval) > 0 || plan.everySave;
  return (
    <>
      <Grid
        templateColumns="repeat(3, 1fr)"
        gap="4"
        py="3"
        borderBottom="1px solid"
        borderColor="hairline"
      >
        <BigFigure
          value={f.programDies === undefined ? "unknown" : `up to ${ageOf(f.programDies)}`}
          label="lost if the program dies"
          why={f.programDiesWhy}
        />
        <BigFigure
          value={f.fileLost === undefined ? "unknown" : `up to ${ageOf(f.fileLost)}`}
          label={
            f.meanFileLost === undefined
              ? "lost if the file is lost"
              : `lost if the file is lost, ${ageOf(f.meanFileLost)} on average`
          }
          why={f.fileLostWhy}
          tone={past ? "loss" : "ink"}
        />
        <BigFigure
          value={timed ? reach(ageOf(f.reachFrom), ageOf(f.reachTo)) : "what you copy by hand"}
          label="the kept copies reach back"
          why={f.reachWhy}
        />
        <BigFigure
          value={size(f.footprint)}
          label={
            answer.inputs.places > 1
              ? `room in all ${answer.inputs.places} recovery folders`
              : "room in the recovery folder"
          }
          why={f.footprintWhy}
        />
        <BigFigure
          value={timed ? `${size(f.loadPerHour)} an hour` : "nothing"}
          label="written while you work without pause"
          why={f.loadWhy}
        />
        <CopyTime answer={answer} />
      </Grid>
      <Warnings warnings={f.warnings} answer={answer} />
    </>
  );
}

const stepsWords = (n: number) => (n === 0 ? "unknown" : count(n, "step"));

/** The same for solver runs, counted in steps. */
function RunFigures({ answer, run }: { answer: PlanAnswer; run: RunFiguresRecord }) {
  const computing = (iso: string | undefined) =>
    iso === undefined ? "" : `, ${ageOf(iso)} of computing`;
  return (
    <>
      <Grid
        templateColumns="repeat(3, 1fr)"
        gap="4"
        py="3"
        borderBottom="1px solid"
        borderColor="hairline"
      >
        <BigFigure
          value="up to 1 step"
          label={`lost if the solver dies${computing(run.step)}`}
          why={{
            formula: "each step is written as soon as it is computed",
            filled: run.step === undefined ? "no two steps seen yet" : ageOf(run.step),
            source: "common practice, no source",
          }}
        />
        <BigFigure
          value={run.lostSteps === 0 ? "unknown" : `up to ${stepsWords(run.lostSteps)}`}
          label={`lost if the files are lost${computing(run.lost)}`}
          why={run.lostWhy}
          tone={run.warnings.some((w) => w.startsWith("You may lose")) ? "loss" : "ink"}
        />
        <BigFigure
          value={
            run.lostSteps === 0
              ? "what you copy by hand"
              : reach(String(run.reachFrom), stepsWords(run.reachTo))
          }
          label="the restart files reach back"
          why={run.reachWhy}
        />
        <BigFigure
          value={size(run.footprint)}
          label={
            answer.inputs.places > 1
              ? `room in all ${answer.inputs.places} recovery folders`
              : "room in the recovery folder"
          }
          why={run.footprintWhy}
        />
        <BigFigure
          value={`${size(run.loadPerHour)} an hour`}
          label="written while it computes"
          why={run.loadWhy}
        />
        <CopyTime answer={answer} />
      </Grid>
      <Warnings warnings={run.warnings} answer={answer} />
    </>
  );
}

function Drag({ plan, set }: { plan: PlanRecord; set: (changes: Partial<PlanRecord>) => void }) {
  const now = seconds(plan.interval);
  const words = now === 0 ? "never by itself" : age(now * 1000);
  const at = STOPS.findIndex((s) => s === now || (s > now && now !== 0));
  const index = now === 0 ? STOPS.length - 1 : at < 0 ? STOPS.length - 2 : at;
  return (
    <Box py="4">
      <Slider.Root
        min={0}
        max={STOPS.length - 1}
        value={[index]}
        onValueChange={(e) => set({ interval: duration(STOPS[e.value[0] ?? 0] ?? 600) })}
      >
        <Slider.Label fontSize="13px" fontWeight="650">
          Longest time from a change to its copy: {words}
          {plan.everySave && ", and on every save"}
        </Slider.Label>
        <Slider.Control mt="2">
          <Slider.Track bg="hairline">
            <Slider.Range bg="fir" />
          </Slider.Track>
          <Slider.Thumb index={0} bg="ink" borderColor="ink">
            <Slider.HiddenInput aria-valuetext={words} />
          </Slider.Thumb>
        </Slider.Control>
      </Slider.Root>
      <Flex justify="space-between" fontSize="12px" color="muted" mt="1">
        <Text>30 s: least lost</Text>
        <Text>4 h: least written</Text>
        <Text>never</Text>
      </Flex>
    </Box>
  );
}

interface Scope {
  /** The document the plan is for alone; all that have none of their own without it. */
  document?: { id: string; name: string };
  own: boolean;
  plan: PlanRecord;
}

function Editor({
  project,
  scope,
  children,
}: {
  project: Project;
  scope: Scope;
  children: ReactNode;
}) {
  const [changed, setChanged] = useState<PlanRecord>();
  const plan = changed ?? scope.plan;
  const figures = usePlanFigures(project.id, plan, scope.document?.id);
  const apply = useApply(project.id);
  const except = useExcept(scope.document?.id ?? "");
  const session = useSession();
  const now = useNow(60_000);
  const dirty = useMemo(
    () => changed !== undefined && !same(changed, scope.plan),
    [changed, scope.plan],
  );
  const set = (changes: Partial<PlanRecord>) => setChanged({ ...plan, ...changes });
  const drops = figures.data?.drops ?? 0;
  const applied = { onSuccess: () => setChanged(undefined) };
  const { version, program } = project;
  const onApply = () =>
    scope.document
      ? except.mutate({ version, plan }, applied)
      : apply.mutate({ version, plan, program }, applied);
  return (
    <Flex direction="column" h="100%">
      <PageHead
        title={`Plan for ${scope.document?.name ?? project.name}`}
        under={
          <>
            {children} · set {moment(project.changed, session.data?.zone ?? "UTC", now)} by{" "}
            {project.changedBy ?? "nobody"}
          </>
        }
      >
        {scope.own && (
          <Side
            loading={except.isPending}
            onClick={() => except.mutate({ version, plan: null }, applied)}
          >
            Follow the project&apos;s plan again
          </Side>
        )}
        {dirty && <Side onClick={() => setChanged(undefined)}>As it was</Side>}
        <Main
          disabled={!dirty || figures.isError}
          loading={apply.isPending || except.isPending}
          onClick={onApply}
        >
          {!dirty
            ? "Nothing to apply"
            : drops > 0
              ? `Apply · moves ${drops} to the bin`
              : "Apply · drops nothing"}
        </Main>
      </PageHead>
      <Failure error={apply.error ?? except.error} />
      <Grid templateColumns="minmax(420px, 5fr) 7fr" flex="1" minH="0">
        <Box px="4" py="1" overflow="auto" borderRight="1px solid" borderColor="hairline">
          <Form plan={plan} set={set} runs={project.sets !== undefined}>
            <RunRule key={project.version} project={project} />
          </Form>
        </Box>
        <Box px="5" py="1" overflow="auto" aria-live="polite">
          <Failure error={figures.error} />
          <Box minH="160px">
            {!figures.data ? (
              <Loading what="Computing" />
            ) : figures.data.run ? (
              <RunFigures answer={figures.data} run={figures.data.run} />
            ) : (
              <Figures answer={figures.data} plan={plan} />
            )}
          </Box>
          {!project.sets && <Drag plan={plan} set={set} />}
          <Setting name="I accept to lose">
            <Number
              label="Minutes accepted to lose"
              value={seconds(plan.accepted) / 60}
              min={1}
              max={10080}
              onChange={(m) => set({ accepted: duration(Math.round(m * 60)) })}
            />
            min of work
          </Setting>
          <RecoveryFolders project={project} check={figures.data?.recovery} />
        </Box>
      </Grid>
    </Flex>
  );
}

function planWords(exceptions: number): string {
  if (exceptions === 0) return "all by one plan";
  return exceptions === 1 ? "1 with a plan of its own" : `${exceptions} with plans of their own`;
}

/** Chooses whether the plan is for all documents or for the one in hand alone. */
function Scopes(props: {
  documents: number;
  exceptions: number;
  name: string;
  alone: boolean;
  onAlone: (alone: boolean) => void;
}) {
  const { documents, exceptions, name, alone, onAlone } = props;
  const words = `${count(documents, "document")}, new ones join by themselves`;
  if (documents <= 1 && exceptions === 0) return <>{words}</>;
  return (
    <Flex as="span" display="inline-flex" gap="1" align="center">
      {words}, {planWords(exceptions)}
      <Quiet aria-pressed={!alone} onClick={() => onAlone(false)}>
        {alone ? "" : "✓ "}for all
      </Quiet>
      <Quiet aria-pressed={alone} onClick={() => onAlone(true)}>
        {alone ? "✓ " : ""}for {name} alone
      </Quiet>
    </Flex>
  );
}

function same<T extends object>(a: T, b: T): boolean {
  return (Object.keys(a) as (keyof T)[]).every((key) => {
    const [x, y] = [a[key], b[key]];
    if (isDuration(x) && isDuration(y)) return seconds(x) === seconds(y);
    return typeof x === "object" && x && typeof y === "object" && y ? same(x, y) : x === y;
  });
}

export function Plan() {
  const { inHand, overview } = useWhere();
  const project = useProject(inHand?.project.id ?? "");
  const { go } = useGo();
  const [chosen, setChosen] = useState<{ document: string; alone: boolean }>();
  if (overview.isPending || (inHand && project.isPending))
    return <Loading what="Reading the plan" />;
  if (!inHand || !project.data) {
    return (
      <Empty title="No plan yet">
        <Failure error={project.error} />
        <Text mb="3">A plan says when copies are made, how many stay, and where they go.</Text>
        <Main onClick={() => go("/start")}>Say where the work lies</Main>
      </Empty>
    );
  }
  const { document } = inHand;
  const exceptions = project.data.exceptions as Record<string, PlanRecord | undefined>;
  const own = exceptions[document.id];
  const alone = chosen?.document === document.id ? chosen.alone : own !== undefined;
  const scope: Scope = alone
    ? { document, own: own !== undefined, plan: own ?? project.data.plan }
    : { own: false, plan: project.data.plan };
  return (
    <Editor key={`${document.id} ${alone}`} project={project.data} scope={scope}>
      <Scopes
        documents={inHand.project.documents.length}
        exceptions={Object.keys(exceptions).length}
        name={document.name}
        alone={alone}
        onAlone={(a) => setChosen({ document: document.id, alone: a })}
      />
    </Editor>
  );
}
