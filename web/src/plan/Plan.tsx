import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { type ReactNode, useMemo, useState } from "react";
import type { Plan as PlanRecord, Project } from "../api/schema";
import {
  useAdvice,
  useApply,
  useExcept,
  usePlanFigures,
  useProject,
  useSession,
} from "../api/queries";
import { useGo, useWhere } from "../app/where";
import { NotAllowed } from "../shared/Allowed";
import { Empty, Failure, Loading, Main, PageHead, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { count, isDuration, seconds } from "../shared/words";
import { Advice } from "./Advice";
import { Beside } from "./Beside";
import { EarlierPlans } from "./EarlierPlans";
import { Form } from "./PlanForm";
import { Price } from "./Price";
import { Replays } from "./Replays";
import { RunRule } from "./RunRule";
import { ThreeSettings } from "./ThreeSettings";
import { Warnings } from "./Warnings";
import { phrase } from "../words/phrase";

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
  const advice = useAdvice(
    project.id,
    changed ? [changed, scope.plan] : [scope.plan],
    scope.document?.id,
  );
  const { go } = useGo();
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
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={phrase("plan.planFor", { name: scope.document?.name ?? project.name })}
        under={
          <>
            {phrase("plan.setBy", {
              what: children,
              moment: moment(project.changed, session.data?.zone ?? "UTC", now),
              changedBy: project.changedBy ?? "nobody",
            })}{" "}
            {!scope.document && (
              <EarlierPlans project={project} plan={plan} onTake={(p) => setChanged(p)} />
            )}
          </>
        }
      >
        {scope.own && (
          <Side
            needs="PLAN"
            loading={except.isPending}
            onClick={() => except.mutate({ version, plan: null }, applied)}
          >
            {phrase("plan.followTheProjectsPlanAgain")}
          </Side>
        )}
        {dirty && (
          <Side onClick={() => setChanged(undefined)}>{phrase("plan.discardChanges")}</Side>
        )}
        {!dirty && (
          <Side onClick={() => go(`/recovery-test/${scope.document?.id ?? ""}`)}>
            {phrase("common.recoveryTest")}
          </Side>
        )}
        <Main
          needs="PLAN"
          disabled={!dirty || figures.isError}
          loading={apply.isPending || except.isPending}
          onClick={onApply}
        >
          {!dirty
            ? phrase("plan.nothingToApply")
            : drops > 0
              ? phrase("plan.applyMovesToTheBin", { drops })
              : phrase("plan.applyDropsNothing")}
        </Main>
      </PageHead>
      <Failure error={apply.error ?? except.error} />
      <NotAllowed needs="PLAN" what={phrase("plan.youCanTryWhatOtherFigures")} px="4" />
      <ThreeSettings project={project} plan={plan} set={set} answer={figures.data} />
      <Grid
        templateColumns={{ base: "1fr", lg: "minmax(420px, 5fr) 7fr" }}
        flex="1"
        minH="0"
        overflow={{ base: "visible", lg: "hidden" }}
      >
        <Box px="4" py="1" overflow="auto" borderRight="1px solid" borderColor="hairline">
          <Failure error={figures.error} />
          {figures.data && <Warnings answer={figures.data} dirty={dirty} />}
          <Form
            plan={plan}
            set={set}
            runs={project.sets !== undefined}
            answer={figures.data}
            project={project.id}
            holds={!dirty}
            beside={<Beside project={project} />}
          >
            <RunRule key={project.version} project={project} />
          </Form>
        </Box>
        <Box
          px="5"
          py="1"
          overflow="auto"
          aria-live="polite"
          role="region"
          aria-label={phrase("plan.whatEachChoiceComesTo")}
          tabIndex={0}
        >
          <Failure error={advice.error} />
          <Advice
            advice={advice.data?.advice}
            spacing={advice.data?.spacing}
            plan={plan}
            set={set}
          />
          <Price project={project.id} document={scope.document?.id} />
          {advice.data && (
            <Replays
              answer={advice.data}
              words={[
                dirty ? phrase("plan.whatYouSee") : phrase("plan.yourPlan"),
                phrase("plan.yourPlanAsSet"),
              ]}
              zone={session.data?.zone ?? "UTC"}
              now={now}
            />
          )}
        </Box>
      </Grid>
    </Flex>
  );
}

function planWords(exceptions: number): string {
  if (exceptions === 0) return phrase("plan.allByOnePlan");
  return phrase("plan.withPlansOfTheirOwn", { exceptions });
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
  const words = phrase("plan.newOnesJoinByThemselves", { documents: count(documents, "document") });
  if (documents <= 1 && exceptions === 0) return <>{words}</>;
  return (
    <Flex as="span" display="inline-flex" gap="1" align="center">
      {words}, {planWords(exceptions)}
      <Quiet aria-pressed={!alone} onClick={() => onAlone(false)}>
        {phrase("plan.forAll", { chosen: alone ? "" : "✓ " })}
      </Quiet>
      <Quiet aria-pressed={alone} onClick={() => onAlone(true)}>
        {phrase("plan.forAlone", { chosen: alone ? "✓ " : "", name })}
      </Quiet>
    </Flex>
  );
}

function same<T extends object>(a: T, b: T): boolean {
  return (Object.keys({ ...a, ...b }) as (keyof T)[]).every((key) => {
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
    return <Loading what={phrase("plan.readingThePlan")} />;
  if (!inHand || !project.data) {
    return (
      <Empty title={phrase("plan.noPlanYet")}>
        <Failure error={project.error} />
        <Text mb="3">{phrase("plan.aPlanSaysHowOftenBackups")}</Text>
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("plan.sayWhereTheWorkLies")}
        </Main>
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
