import { Box, Grid, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { PlanAnswer, Plan as PlanRecord, Project, Why as WhyRecord } from "../api/schema";
import { Number, Tick } from "../shared/fields";
import { Why } from "../shared/Why";
import { age, count, duration, seconds, size, decimal } from "../shared/words";
import { olderWords } from "./PlanForm";
import { RecoveryFolders } from "./RecoveryFolders";
import { phrase } from "../words/phrase";

type Set = (changes: Partial<PlanRecord>) => void;

/** One of the three: the question, the setting, and what it comes to. */
function Block(props: { name: string; setting: ReactNode; children: ReactNode }) {
  return (
    <Box px="4" py="2" borderLeft="1px solid" borderColor="hairline" _first={{ border: 0 }}>
      <Text as="h2" fontSize="13px" color="muted">
        {props.name}
      </Text>
      <Box fontSize="15px" display="flex" alignItems="center" gap="1.5" flexWrap="wrap" minH="30px">
        {props.setting}
      </Box>
      <Box as="dl" fontSize="13px" mt="1" aria-live="polite">
        {props.children}
      </Box>
    </Box>
  );
}

type Past = NonNullable<PlanAnswer["past"]["fileLost"]>;

const PAST = {
  formula: phrase("plan.aHAH2A"),
  source: phrase("plan.simulatedOverYourRecordedWorkD"),
};

/** What that way to lose would have cost over the work that was recorded. */
function pastWords(past: Past): string {
  return phrase("plan.seenInOnAverageAtWorst", {
    over: ageOf(past.over),
    mean: ageOf(past.mean),
    worst: ageOf(past.worst),
  });
}

/** What was seen outweighs what the settings promise. */
function atWorst(settings: string | undefined, past: Past | undefined): string {
  const promised = settings === undefined ? undefined : seconds(settings);
  const seen = past === undefined ? 0 : seconds(past.worst);
  return promised === undefined && seen === 0
    ? phrase("plan.unknown")
    : phrase("plan.upToLost", { age: age(Math.max(promised ?? 0, seen) * 1000) });
}

function Consequence(props: {
  name: string;
  value: string;
  why?: WhyRecord;
  loss?: boolean;
  past?: Past;
}) {
  return (
    <Box display="flex" gap="2" alignItems="baseline">
      <Text as="dt" color="muted" w="118px" flexShrink="0">
        {props.name}
      </Text>
      <Text as="dd" m="0" fontWeight="600" color={props.loss ? "loss" : "ink"}>
        {props.value}
        {props.why && (
          <Text as="span" fontWeight="400">
            {" "}
            <Why why={props.why} name={props.name} />
          </Text>
        )}
        {props.past && (
          <Text fontWeight="400" fontSize="12px" color="muted">
            {pastWords(props.past)}{" "}
            <Why
              why={{
                ...PAST,
                filled: phrase("plan.95OfTheMoments", { age: ageOf(props.past.most) }),
              }}
              name={phrase("plan.past", { name: props.name })}
            />
          </Text>
        )}
      </Text>
    </Box>
  );
}

const ageOf = (iso: string) => age(seconds(iso) * 1000);

function Every({ plan, set }: { plan: PlanRecord; set: Set }) {
  return (
    <>
      {phrase("plan.minAfterAChange", {
        number: (
          <Number
            label={phrase("plan.minutesAfterAChange")}
            value={seconds(plan.interval) / 60}
            min={0}
            max={10080}
            step={0.5}
            onChange={(m) => set({ interval: duration(Math.round(m * 60)) })}
          />
        ),
      })}
      <Tick
        label={phrase("plan.andOnEverySave")}
        on={plan.everySave}
        onChange={(everySave) => set({ everySave })}
      />
    </>
  );
}

function HowOften({ plan, set, answer }: { plan: PlanRecord; set: Set; answer?: PlanAnswer }) {
  const f = answer?.figures;
  const worst = Math.max(
    f?.fileLost === undefined ? 0 : seconds(f.fileLost),
    answer?.past.fileLost === undefined ? 0 : seconds(answer.past.fileLost.worst),
  );
  const past = worst > seconds(plan.accepted);
  const copying = answer?.inputs.copyTime;
  return (
    <Block
      name={phrase("plan.howOften")}
      setting={<>{phrase("plan.backUpEvery", { every: <Every plan={plan} set={set} /> })}</>}
    >
      {answer && f && (
        <>
          <Consequence
            name={phrase("plan.ifTheProgramDies")}
            value={atWorst(f.programDies, answer.past.programDies)}
            why={f.programDiesWhy}
            past={answer.past.programDies}
          />
          <Consequence
            name={phrase("plan.ifTheFileIsLost")}
            value={atWorst(f.fileLost, answer.past.fileLost)}
            why={f.fileLostWhy}
            loss={past}
            past={answer.past.fileLost}
          />
          <Consequence
            name={phrase("plan.ifTheDiskIsLost")}
            value={
              !answer.past.otherDisk
                ? phrase("plan.everythingNoBackupIsOnAnother")
                : atWorst(f.fileLost, answer.past.diskLost)
            }
            loss={!answer.past.otherDisk}
            past={answer.past.diskLost}
          />
          <Consequence
            name={phrase("plan.ifTheSiteIsLost")}
            value={
              answer.past.elsewhere
                ? atWorst(f.fileLost, answer.past.siteLost)
                : phrase("plan.everythingNothingIsElsewhere")
            }
            past={answer.past.siteLost}
          />
          <Consequence
            name={phrase("plan.written")}
            value={
              f.loadPerHour > 0
                ? phrase("plan.anHourOfWork", {
                    size: size(f.loadPerHour),
                    each: copying
                      ? phrase("plan.sEach", { seconds: decimal(seconds(copying), 2) })
                      : "",
                  })
                : phrase("plan.nothingByItself")
            }
            why={f.loadWhy}
          />
        </>
      )}
    </Block>
  );
}

function roomWords(answer: PlanAnswer, kept: number, bin: number, autosaves = 0): string {
  const folders =
    answer.inputs.places > 1
      ? ` ${phrase("plan.inFolders", { places: answer.inputs.places })}`
      : "";
  const parts = [
    autosaves > 0 && phrase("plan.ofItAutosaves", { size: size(autosaves) }),
    bin > 0 && phrase("plan.theBin", { size: size(bin) }),
  ].filter(Boolean);
  return [phrase("plan.upTo", { size: size(kept + bin), folders }), ...parts].join(", ");
}

function HowMany({ plan, set, answer }: { plan: PlanRecord; set: Set; answer?: PlanAnswer }) {
  const f = answer?.figures;
  const timed = seconds(plan.interval) > 0 || plan.everySave;
  return (
    <Block
      name={phrase("plan.howMany")}
      setting={
        <>
          {phrase("plan.keepTheNewest", {
            number: (
              <Number
                label={phrase("plan.newestCopiesToKeep")}
                value={plan.keep.newest}
                min={0}
                max={100000}
                onChange={(n) => set({ keep: { ...plan.keep, newest: Math.round(n) } })}
              />
            ),
          })}
        </>
      }
    >
      <Consequence name={phrase("plan.andOlderOnes")} value={olderWords(plan.keep)} />
      {answer && f && (
        <>
          <Consequence
            name={phrase("plan.reachesBack")}
            value={
              !timed
                ? phrase("plan.toWhatYouBackUpBy")
                : f.reachFrom === f.reachTo
                  ? ageOf(f.reachFrom)
                  : phrase("plan.to2", { age: ageOf(f.reachFrom), age2: ageOf(f.reachTo) })
            }
            why={f.reachWhy}
          />
          <Consequence
            name={phrase("plan.room")}
            value={roomWords(answer, f.footprint + f.programs.room, f.bin, f.programs.room)}
            why={f.footprintWhy}
          />
        </>
      )}
    </Block>
  );
}

function HowOftenSteps({ plan, set, answer }: { plan: PlanRecord; set: Set; answer?: PlanAnswer }) {
  const run = answer?.run;
  return (
    <Block
      name={phrase("plan.howOften")}
      setting={
        <>
          {phrase("plan.backUpEveryStepsOr", {
            number: (
              <Number
                label={phrase("plan.stepsBetweenCopies")}
                value={plan.everySteps}
                min={0}
                max={1_000_000}
                onChange={(n) => set({ everySteps: Math.round(n) })}
              />
            ),
            every: <Every plan={plan} set={set} />,
          })}
        </>
      }
    >
      {run && (
        <>
          <Consequence
            name={phrase("plan.ifTheSolverDies")}
            value={phrase("plan.upTo1StepLost", {
              computing: run.step ? `, ${ageOf(run.step)}` : "",
            })}
            why={{
              formula: phrase("plan.eachStepIsWrittenAsSoon"),
              filled: run.step === undefined ? phrase("plan.noTwoStepsSeenYet") : ageOf(run.step),
              source: phrase("plan.commonPracticeNoSource"),
            }}
          />
          <Consequence
            name={phrase("plan.ifFilesAreLost")}
            value={
              run.lostSteps === 0
                ? phrase("plan.unknown")
                : phrase("plan.upToLost2", {
                    steps: count(run.lostSteps, "step"),
                    computing: run.lost ? `, ${ageOf(run.lost)}` : "",
                  })
            }
            why={run.lostWhy}
            loss={run.warnings.some((w) => w.startsWith("You may lose"))}
          />
          <Consequence
            name={phrase("plan.written")}
            value={phrase("plan.anHourOfComputing", { size: size(run.loadPerHour) })}
            why={run.loadWhy}
          />
        </>
      )}
    </Block>
  );
}

function HowManySteps({ plan, set, answer }: { plan: PlanRecord; set: Set; answer?: PlanAnswer }) {
  const { runs } = plan;
  const run = answer?.run;
  return (
    <Block
      name={phrase("plan.howMany")}
      setting={
        <>
          {phrase("plan.keepTheLastRestartsResultsOf", {
            number: (
              <Number
                label={phrase("plan.restartFilesToKeep")}
                value={runs.restarts}
                min={0}
                max={100000}
                onChange={(n) => set({ runs: { ...runs, restarts: Math.round(n) } })}
              />
            ),
            number2: (
              <Number
                label={phrase("plan.stepsBetweenKeptResults")}
                value={runs.everyResult}
                min={0}
                max={100000}
                onChange={(n) => set({ runs: { ...runs, everyResult: Math.round(n) } })}
              />
            ),
          })}
        </>
      }
    >
      {answer && run && (
        <>
          <Consequence
            name={phrase("plan.reachesBack")}
            value={phrase("plan.toSteps", { from: run.reachFrom, to: run.reachTo })}
            why={run.reachWhy}
          />
          <Consequence
            name={phrase("plan.room")}
            value={roomWords(answer, run.footprint, run.bin)}
            why={run.footprintWhy}
          />
        </>
      )}
    </Block>
  );
}

/** How often, how many, where: each with what it comes to beside it. */
export function ThreeSettings(props: {
  project: Project;
  plan: PlanRecord;
  set: Set;
  answer?: PlanAnswer;
}) {
  const { project, plan, set, answer } = props;
  const runs = project.sets !== undefined;
  return (
    <Grid
      templateColumns={{ base: "minmax(0, 1fr)", lg: "5fr 4fr 4fr" }}
      borderBottom="1px solid"
      borderColor="hairline"
      minH="132px"
      flexShrink="0"
    >
      {runs ? (
        <HowOftenSteps plan={plan} set={set} answer={answer} />
      ) : (
        <HowOften plan={plan} set={set} answer={answer} />
      )}
      {runs ? (
        <HowManySteps plan={plan} set={set} answer={answer} />
      ) : (
        <HowMany plan={plan} set={set} answer={answer} />
      )}
      <Box px="4" py="2" borderLeft="1px solid" borderColor="hairline">
        <Text as="h2" fontSize="13px" color="muted">
          {phrase("plan.where")}
        </Text>
        <RecoveryFolders project={project} check={answer?.recovery} />
      </Box>
    </Grid>
  );
}
