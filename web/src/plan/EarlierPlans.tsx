import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Plan as PlanRecord, Project } from "../api/schema";
import { usePlanDefaults, usePlanVersions, useSession, useSetDefaultPlan } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Loading, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { phrase } from "../words/phrase";

function Line(props: { title: string; under: string; onTake: () => void }) {
  return (
    <Flex py="2" gap="3" borderBottom="1px solid" borderColor="hairline" align="flex-start">
      <Box flex="1">
        <Text fontSize="14px" fontWeight="600">
          {props.title}
        </Text>
        <Text fontSize="12px" color="muted">
          {props.under}
        </Text>
      </Box>
      <Side size="xs" onClick={props.onTake}>
        {phrase("plan.lookAtIt")}
      </Side>
    </Flex>
  );
}

function Versions({ project, onTake }: { project: Project; onTake: (plan: PlanRecord) => void }) {
  const versions = usePlanVersions(project.id);
  const defaults = usePlanDefaults();
  const session = useSession();
  const now = useNow(60_000);
  const at = (iso: string) => moment(iso, session.data?.zone ?? "UTC", now);
  if (versions.error ?? defaults.error) return <Failure error={versions.error ?? defaults.error} />;
  if (!versions.data || !defaults.data)
    return <Loading what={phrase("plan.readingEarlierPlans")} />;
  const { usual, factory } = defaults.data;
  return (
    <>
      {versions.data.map((v, i) => (
        <Line
          key={v.at}
          title={phrase("plan.by", {
            at: at(v.at),
            who: v.who,
            present: i === 0 ? ` ${phrase("plan.thePresentOne")}` : "",
          })}
          under={
            v.changes.length > 0 ? v.changes.join(", ") : phrase("plan.theFirstPlanOfThisProject")
          }
          onTake={() => onTake(v.plan)}
        />
      ))}
      <Line
        title={phrase("plan.whatNewProjectsGet")}
        under={phrase("plan.theDefaultAsYouSetIt")}
        onTake={() => onTake(usual)}
      />
      <Line
        title={phrase("plan.factoryValues")}
        under={phrase("plan.asKavrinCame")}
        onTake={() => onTake(factory)}
      />
    </>
  );
}

/** Goes back to a plan of before, to the default or to factory values; applied only by "Apply". */
export function EarlierPlans(props: {
  project: Project;
  plan: PlanRecord;
  onTake: (plan: PlanRecord) => void;
}) {
  const [open, setOpen] = useState(false);
  const setDefault = useSetDefaultPlan();
  return (
    <>
      <Quiet onClick={() => setOpen(true)}>{phrase("plan.earlierPlans")}</Quiet>
      <FormDialog
        open={open}
        onOpen={setOpen}
        title={phrase("plan.plansToGoBackTo")}
        size="xl"
        onSubmit={() => setOpen(false)}
        footer={
          <>
            <Side
              needs="ADMINISTER"
              over="everything"
              loading={setDefault.isPending}
              onClick={() => setDefault.mutate(props.plan)}
            >
              {setDefault.isSuccess
                ? phrase("plan.newProjectsGetThisPlan")
                : phrase("plan.giveNewProjectsThisPlan")}
            </Side>
            <Side type="submit">{phrase("common.done")}</Side>
          </>
        }
      >
        <Failure error={setDefault.error} />
        {open && (
          <Versions
            project={props.project}
            onTake={(plan) => {
              props.onTake(plan);
              setOpen(false);
            }}
          />
        )}
      </FormDialog>
    </>
  );
}
