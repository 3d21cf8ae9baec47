import { Box, Grid, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { PlanAnswer, Plan as PlanRecord, Project, Why as WhyRecord } from "../api/schema";
import { Number, Tick } from "../shared/fields";
import { Why } from "../shared/Why";
import { age, count, duration, seconds, size } from "../shared/words";
import { olderWords } from "./PlanForm";
import { RecoveryFolders } from "./RecoveryFolders";

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
  formula:
    "Σ[(a₊ − h)² − (a − h)²] / (2Σ(a₊ − a)) on average, max(a₊ − h) at worst; survivor with the work up to h, there from a, the next from a₊",
  source: "simulated over your recorded work; D. R. Cox, Renewal Theory, 1962",
};

/** What that way to lose would have cost over the work that was recorded. */
function pastWords(past: Past): string {
  return `seen in ${ageOf(past.over)}: ${ageOf(past.mean)} on average, ${ageOf(past.worst)} at worst`;
}

/** What was seen outweighs what the settings promise. */
function atWorst(settings: string | undefined, past: Past | undefined): string {
  const promised = settings === undefined ? undefined : seconds(settings);
  const seen = past === undefined ? 0 : seconds(past.worst);
  return promised === undefined && seen === 0
    ? "unknown"
    : `up to ${age(Math.max(promised ?? 0, seen) * 1000)} lost`;
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
              why={{ ...PAST, filled: `95 % of the moments: ${ageOf(props.past.most)}` }}
              name={`${props.name}, past`}
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
      <Number
        label="Minutes after a change"
        value={seconds(plan.interval) / 60}
        min={0}
        max={10080}
        step={0.5}
        onChange={(m) => set({ interval: duration(Math.round(m * 60)) })}
      />
      min after a change
      <Tick
        label="and on every save"
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
      name="How often"
      setting={
        <>
          Back up every <Every plan={plan} set={set} />
        </>
      }
    >
      {answer && f && (
        <>
          <Consequence
            name="If the program dies"
            value={atWorst(f.programDies, answer.past.programDies)}
            why={f.programDiesWhy}
            past={answer.past.programDies}
          />
          <Consequence
            name="If the file is lost"
            value={atWorst(f.fileLost, answer.past.fileLost)}
            why={f.fileLostWhy}
            loss={past}
            past={answer.past.fileLost}
          />
          <Consequence
            name="If the disk is lost"
            value={
              !answer.past.otherDisk
                ? "everything: no backup is on another disk"
                : atWorst(f.fileLost, answer.past.diskLost)
            }
            loss={!answer.past.otherDisk}
            past={answer.past.diskLost}
          />
          <Consequence
            name="If the site is lost"
            value={
              answer.past.elsewhere
                ? atWorst(f.fileLost, answer.past.siteLost)
                : "everything: nothing is elsewhere"
            }
            past={answer.past.siteLost}
          />
          <Consequence
            name="Written"
            value={
              f.loadPerHour > 0
                ? `${size(f.loadPerHour)} an hour of work${copying ? `, ${seconds(copying).toFixed(2)} s each` : ""}`
                : "nothing by itself"
            }
            why={f.loadWhy}
          />
        </>
      )}
    </Block>
  );
}

function roomWords(answer: PlanAnswer, kept: number, bin: number, autosaves = 0): string {
  const folders = answer.inputs.places > 1 ? ` in ${answer.inputs.places} folders` : "";
  const parts = [
    autosaves > 0 && `${size(autosaves)} of it autosaves`,
    bin > 0 && `${size(bin)} the bin`,
  ].filter(Boolean);
  return [`up to ${size(kept + bin)}${folders}`, ...parts].join(", ");
}

function HowMany({ plan, set, answer }: { plan: PlanRecord; set: Set; answer?: PlanAnswer }) {
  const f = answer?.figures;
  const timed = seconds(plan.interval) > 0 || plan.everySave;
  return (
    <Block
      name="How many"
      setting={
        <>
          Keep the newest
          <Number
            label="Newest copies to keep"
            value={plan.keep.newest}
            min={0}
            max={100000}
            onChange={(n) => set({ keep: { ...plan.keep, newest: Math.round(n) } })}
          />
        </>
      }
    >
      <Consequence name="and older ones" value={olderWords(plan.keep)} />
      {answer && f && (
        <>
          <Consequence
            name="Reaches back"
            value={
              !timed
                ? "to what you back up by hand"
                : f.reachFrom === f.reachTo
                  ? ageOf(f.reachFrom)
                  : `${ageOf(f.reachFrom)} to ${ageOf(f.reachTo)}`
            }
            why={f.reachWhy}
          />
          <Consequence
            name="Room"
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
      name="How often"
      setting={
        <>
          Back up every
          <Number
            label="Steps between copies"
            value={plan.everySteps}
            min={0}
            max={1_000_000}
            onChange={(n) => set({ everySteps: Math.round(n) })}
          />
          steps, or <Every plan={plan} set={set} />
        </>
      }
    >
      {run && (
        <>
          <Consequence
            name="If the solver dies"
            value={`up to 1 step lost${run.step ? `, ${ageOf(run.step)}` : ""}`}
            why={{
              formula: "each step is written as soon as it is computed",
              filled: run.step === undefined ? "no two steps seen yet" : ageOf(run.step),
              source: "common practice, no source",
            }}
          />
          <Consequence
            name="If files are lost"
            value={
              run.lostSteps === 0
                ? "unknown"
                : `up to ${count(run.lostSteps, "step")} lost${run.lost ? `, ${ageOf(run.lost)}` : ""}`
            }
            why={run.lostWhy}
            loss={run.warnings.some((w) => w.startsWith("You may lose"))}
          />
          <Consequence
            name="Written"
            value={`${size(run.loadPerHour)} an hour of computing`}
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
      name="How many"
      setting={
        <>
          Keep the last
          <Number
            label="Restart files to keep"
            value={runs.restarts}
            min={0}
            max={100000}
            onChange={(n) => set({ runs: { ...runs, restarts: Math.round(n) } })}
          />
          restarts, results of every
          <Number
            label="Steps between kept results"
            value={runs.everyResult}
            min={0}
            max={100000}
            onChange={(n) => set({ runs: { ...runs, everyResult: Math.round(n) } })}
          />
          steps
        </>
      }
    >
      {answer && run && (
        <>
          <Consequence
            name="Reaches back"
            value={`${run.reachFrom} to ${run.reachTo} steps`}
            why={run.reachWhy}
          />
          <Consequence
            name="Room"
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
          Where
        </Text>
        <RecoveryFolders project={project} check={answer?.recovery} />
      </Box>
    </Grid>
  );
}
