import { Box, Flex, Text } from "@chakra-ui/react";
import { useState, type ReactNode } from "react";
import type { AskedSettings, ProgramView, Project } from "../api/schema";
import { useApply, useSession } from "../api/queries";
import { Number, Words } from "../shared/fields";
import { Failure, Main, Notice, Quiet, Side } from "../shared/parts";
import { moment } from "../shared/dates";
import { useNow } from "../shared/useNow";
import { duration, given, seconds } from "../shared/words";
import { phrase } from "../words/phrase";
import { Choice, Wishes } from "./Wishes";

type Found = AskedSettings["found"];

const SWITCH = [
  ["on", phrase("programs.on")],
  ["off", phrase("programs.isOff")],
] as const;

const switched = (is: boolean | undefined) => (is === undefined ? "" : is ? "on" : "off");

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Flex gap="3" align="center" fontSize="13px" py="1" minH="36px" wrap="wrap">
      <Text w="210px" color="muted">
        {name}
      </Text>
      {children}
    </Flex>
  );
}

function Switch(props: {
  label: string;
  is: boolean | undefined;
  onChange: (is: boolean | undefined) => void;
}) {
  return (
    <Row name={props.label}>
      <Choice
        label={props.label}
        w="170px"
        none={phrase("programs.notLookedUp")}
        value={switched(props.is)}
        options={SWITCH}
        // The empty choice takes it back.
        onChange={(is: string) => props.onChange(is === "" ? undefined : is === "on")}
      />
    </Row>
  );
}

/** Replaces what a person said of a program's settings; this machine's clock tells when. */
function useSaid(project: Project, onDone?: () => void) {
  const apply = useApply(project.id);
  const say = (asked: AskedSettings | undefined) =>
    apply.mutate(
      {
        version: project.version,
        plan: project.plan,
        program: given({ ...project.program, asked }),
      },
      { onSuccess: onDone },
    );
  return { say, apply };
}

/** Asks for the settings of a program that nothing else can read. */
export function AskSettings({ project, onDone }: { project: Project; onDone: () => void }) {
  const known = project.program.asked;
  const [found, setFound] = useState<Found>(known?.found ?? {});
  const [wanted, setWanted] = useState(known?.wanted ?? { enabled: true });
  const { say, apply } = useSaid(project, onDone);
  const set = (changes: Partial<Record<keyof Found, unknown>>) =>
    setFound(given({ ...found, ...changes }) as Found);
  return (
    <Box mt="3" maxW="860px">
      <Text fontSize="13px" color="muted">
        {phrase("programs.openItsSettingsAndSay", { name: project.program.name })}
      </Text>
      <Switch
        label={phrase("programs.itsOwnAutosave")}
        is={found.enabled}
        onChange={(enabled) => set({ enabled })}
      />
      <Row name={phrase("programs.timeBetweenAutosaves")}>
        {phrase("programs.min0NotLookedUp", {
          number: (
            <Number
              label={phrase("programs.minutesBetweenItsAutosaves")}
              value={found.interval ? seconds(found.interval) / 60 : 0}
              min={0}
              max={1440}
              onChange={(m) => set({ interval: m > 0 ? duration(Math.round(m * 60)) : undefined })}
            />
          ),
        })}
      </Row>
      <Row name={phrase("programs.autosavesItKeeps")}>
        {phrase("programs.number0NotLookedUp", {
          number: (
            <Number
              label={phrase("programs.autosavesItKeepsInNumber")}
              value={found.count ?? 0}
              min={0}
              max={10000}
              onChange={(n) => set({ count: n > 0 ? Math.round(n) : undefined })}
            />
          ),
        })}
      </Row>
      <Row name={phrase("programs.folderOfItsAutosaves")}>
        <Words
          label={phrase("programs.folderOfItsAutosaves")}
          value={found.folder ?? ""}
          placeholder=""
          onChange={(folder) => set({ folder: folder || undefined })}
        />
      </Row>
      <Switch
        label={phrase("programs.keepsTheEarlierFileOnSave")}
        is={found.keepEarlier}
        onChange={(keepEarlier) => set({ keepEarlier })}
      />
      <Wishes wanted={wanted} set={(changes) => setWanted(given({ ...wanted, ...changes }))} />
      <Failure error={apply.error} />
      <Flex gap="2" mt="3">
        <Main
          disabled={Object.keys(found).length === 0}
          loading={apply.isPending}
          onClick={() => say({ found, wanted })}
        >
          {phrase("programs.save")}
        </Main>
        <Side onClick={onDone}>{phrase("programs.leaveItAsItWas")}</Side>
        {known && (
          <Side onClick={() => say(undefined)}>{phrase("programs.forgetWhatWasSaid")}</Side>
        )}
      </Flex>
    </Box>
  );
}

/** When a person looked them up, and whether an update may have changed them since. */
export function LookedUp(props: { project: Project; view: ProgramView; onLook: () => void }) {
  const { project, view } = props;
  const { say, apply } = useSaid(project);
  const session = useSession();
  const now = useNow(60_000);
  const at = (time: string) => moment(time, session.data?.zone ?? "UTC", now);
  const asked = project.program.asked;
  return (
    <>
      <Flex gap="3" align="baseline">
        <Text fontSize="13px" color="muted">
          {phrase("programs.itsOwnSettingsLookedUp", {
            moment: view.lookedUp ? at(view.lookedUp) : "",
          })}
        </Text>
        <Quiet onClick={props.onLook}>{phrase("programs.change")}</Quiet>
      </Flex>
      {view.updated && asked && (
        <Box mt="2">
          <Notice tone="caution">
            {phrase("programs.wasUpdatedAfterThat", {
              name: project.program.name,
              moment: at(view.updated),
            })}
            <Flex gap="2" mt="2">
              <Side
                size="xs"
                loading={apply.isPending}
                onClick={() => say({ found: asked.found, wanted: asked.wanted })}
              >
                {phrase("programs.theyStillStandSo")}
              </Side>
              <Side size="xs" onClick={props.onLook}>
                {phrase("programs.sayWhatItShowsNow")}
              </Side>
            </Flex>
          </Notice>
          <Failure error={apply.error} />
        </Box>
      )}
    </>
  );
}
