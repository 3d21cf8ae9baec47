import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type {
  PlanAnswer,
  Plan as PlanRecord,
  RunFigures as RunFiguresRecord,
  Why as WhyRecord,
} from "../api/schema";
import { Notice } from "../shared/parts";
import { Why } from "../shared/Why";
import { age, count, seconds, size } from "../shared/words";

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

/** Six figures; what to hear before choosing this stands below. */
function Sheet(props: { children: ReactNode; warnings: string[]; answer: PlanAnswer }) {
  return (
    <>
      <Grid
        templateColumns="repeat(3, 1fr)"
        gap="3"
        py="3"
        borderBottom="1px solid"
        borderColor="hairline"
      >
        {props.children}
      </Grid>
      <Warnings warnings={props.warnings} answer={props.answer} />
    </>
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

function Footprint({ answer, bytes, why }: { answer: PlanAnswer; bytes: number; why: WhyRecord }) {
  return (
    <BigFigure
      value={size(bytes)}
      label={
        answer.inputs.places > 1
          ? `room in all ${answer.inputs.places} recovery folders`
          : "room in the recovery folder"
      }
      why={why}
    />
  );
}

function Warnings({ warnings, answer }: { warnings: string[]; answer: PlanAnswer }) {
  if (warnings.length === 0 && answer.drops === 0) return null;
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

/** What a plan comes to. */
export function Figures({ answer, plan }: { answer: PlanAnswer; plan: PlanRecord }) {
  const f = answer.figures;
  const past = f.fileLost !== undefined && seconds(f.fileLost) > seconds(plan.accepted);
  const timed = seconds(plan.interval) > 0 || plan.everySave;
  return (
    <Sheet warnings={f.warnings} answer={answer}>
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
      <Footprint answer={answer} bytes={f.footprint} why={f.footprintWhy} />
      <BigFigure
        value={timed ? `${size(f.loadPerHour)} an hour` : "nothing"}
        label="written while you work without pause"
        why={f.loadWhy}
      />
      <CopyTime answer={answer} />
    </Sheet>
  );
}

const stepsWords = (n: number) => (n === 0 ? "unknown" : count(n, "step"));

/** The same for solver runs, counted in steps. */
export function RunFigures({ answer, run }: { answer: PlanAnswer; run: RunFiguresRecord }) {
  const computing = (iso: string | undefined) =>
    iso === undefined ? "" : `, ${ageOf(iso)} of computing`;
  return (
    <Sheet warnings={run.warnings} answer={answer}>
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
      <Footprint answer={answer} bytes={run.footprint} why={run.footprintWhy} />
      <BigFigure
        value={`${size(run.loadPerHour)} an hour`}
        label="written while it computes"
        why={run.loadWhy}
      />
      <CopyTime answer={answer} />
    </Sheet>
  );
}
