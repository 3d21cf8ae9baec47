import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Plan as PlanRecord, Project } from "../api/schema";
import { usePlanDefaults, usePlanVersions, useSession, useSetDefaultPlan } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Loading, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";

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
        Look at it
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
  if (!versions.data || !defaults.data) return <Loading what="Reading earlier plans" />;
  const { usual, factory } = defaults.data;
  return (
    <>
      {versions.data.map((v, i) => (
        <Line
          key={v.at}
          title={`${at(v.at)}, by ${v.who}${i === 0 ? " · the present one" : ""}`}
          under={v.changes.length > 0 ? v.changes.join(", ") : "the first plan of this project"}
          onTake={() => onTake(v.plan)}
        />
      ))}
      <Line
        title="What new projects get"
        under="the default, as you set it"
        onTake={() => onTake(usual)}
      />
      <Line title="Factory values" under="as Kavrin came" onTake={() => onTake(factory)} />
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
      <Quiet onClick={() => setOpen(true)}>earlier plans</Quiet>
      <FormDialog
        open={open}
        onOpen={setOpen}
        title="Plans to go back to"
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
              {setDefault.isSuccess ? "New projects get this plan" : "Give new projects this plan"}
            </Side>
            <Side type="submit">Done</Side>
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
