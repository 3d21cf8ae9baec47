import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  type StoreView,
  type UseRequest,
  useAddStore,
  useChangeStore,
  useLeaveStore,
} from "../api/elsewhere";
import { FormDialog } from "../shared/FormDialog";
import { Labelled, Number, Setting, Tick } from "../shared/fields";
import { Failure, Main, Quiet, Side } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { NOWHERE, placeOf, StorePlace } from "./StorePlace";
import { phrase } from "../words/phrase";

const USUAL: UseRequest = {
  name: phrase("elsewhere.offSite"),
  bytesPerSecond: 0,
  paused: false,
  readEveryDays: 30,
};

const days = (duration: string) => Math.max(1, Math.round(hours(duration) / 24));
const hours = (duration: string) => parseInt(/(\d+)H/.exec(duration)?.[1] ?? "720", 10);

const asUsed = ({ store }: StoreView): UseRequest => ({
  name: store.name,
  bytesPerSecond: store.bytesPerSecond,
  paused: store.paused,
  readEveryDays: days(store.readEvery),
  ...(store.keep && { keep: store.keep }),
  ...(store.from && store.to && { from: store.from, to: store.to }),
});

/** How a store is used. */
function Use(props: { use: UseRequest; onChange: (use: UseRequest) => void }) {
  const { use } = props;
  const set = (changes: Partial<UseRequest>) => props.onChange({ ...use, ...changes });
  const newest = use.keep?.newest;
  return (
    <Box fontSize="13px">
      <Labelled label={phrase("elsewhere.whatYouCallIt")}>
        <Input
          size="xs"
          borderColor="hairline"
          maxLength={120}
          value={use.name}
          onChange={(e) => set({ name: e.target.value })}
        />
      </Labelled>
      <Setting name={phrase("elsewhere.keeps")}>
        <Tick
          label={phrase("elsewhere.whatThePlanKeeps")}
          on={use.keep === undefined}
          onChange={(on) => {
            const rest = { ...use };
            delete rest.keep;
            props.onChange(
              on
                ? rest
                : {
                    ...rest,
                    keep: {
                      newest: 5,
                      hourly: "PT0S",
                      daily: "PT720H",
                      weekly: "PT0S",
                      ring: 0,
                      room: 0,
                    },
                  },
            );
          }}
        />
        {use.keep && newest !== undefined && (
          <>
            {phrase("elsewhere.theNewestAndOneADay", {
              number: (
                <Number
                  label={phrase("elsewhere.versionsKeptThere")}
                  min={1}
                  max={1000}
                  value={newest}
                  onChange={(n) => use.keep && set({ keep: { ...use.keep, newest: n } })}
                />
              ),
            })}
          </>
        )}
      </Setting>
      <Setting name={phrase("elsewhere.rate")}>
        {phrase("elsewhere.atMostMbS0For", {
          number: (
            <Number
              label={phrase("elsewhere.megabytesASecond0ForFull")}
              min={0}
              max={10_000}
              value={use.bytesPerSecond / 1e6}
              onChange={(mb) => set({ bytesPerSecond: Math.round(mb * 1e6) })}
            />
          ),
        })}
      </Setting>
      <Setting name={phrase("elsewhere.hours")}>
        <Tick
          label={phrase("elsewhere.atAnyTime")}
          on={use.from === undefined}
          onChange={(on) => {
            const rest = { ...use };
            delete rest.from;
            delete rest.to;
            props.onChange(on ? rest : { ...rest, from: "19:00", to: "07:00" });
          }}
        />
        {use.from !== undefined && (
          <>
            <Hour
              label={phrase("elsewhere.sendingBegins")}
              value={use.from}
              onChange={(from) => set({ from })}
            />{" "}
            {phrase("elsewhere.to")}{" "}
            <Hour
              label={phrase("elsewhere.sendingEnds")}
              value={use.to ?? ""}
              onChange={(to) => set({ to })}
            />
          </>
        )}
      </Setting>
      <Setting name={phrase("elsewhere.readBack")}>
        {phrase("elsewhere.eachCopyAgainEveryDays", {
          number: (
            <Number
              label={phrase("elsewhere.daysBetweenReadings")}
              min={1}
              max={3650}
              value={use.readEveryDays}
              onChange={(readEveryDays) => set({ readEveryDays })}
            />
          ),
        })}
      </Setting>
    </Box>
  );
}

function Hour(props: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <Input
      size="xs"
      type="time"
      w="96px"
      borderColor="hairline"
      aria-label={props.label}
      value={props.value.slice(0, 5)}
      onChange={(e) => e.target.value !== "" && props.onChange(e.target.value)}
    />
  );
}

export function AddStore(props: { project: string }) {
  const [open, setOpen] = useState(false);
  const [place, setPlace] = useState(NOWHERE);
  const [use, setUse] = useState(USUAL);
  const add = useAddStore(props.project);
  const asked = placeOf(place);
  return (
    <>
      <Main needs="PLAN" onClick={() => setOpen(true)}>
        {phrase("elsewhere.addAStore")}
      </Main>
      <FormDialog
        open={open}
        onOpen={setOpen}
        size="md"
        title={phrase("elsewhere.sendCopiesToAStoreElsewhere")}
        onSubmit={() =>
          asked && add.mutate({ place: asked, use }, { onSuccess: () => setOpen(false) })
        }
        footer={
          <>
            <Side onClick={() => setOpen(false)}>{phrase("common.cancel")}</Side>
            <Main type="submit" loading={add.isPending} disabled={!asked || use.name.trim() === ""}>
              {phrase("elsewhere.askItAndSendCopies")}
            </Main>
          </>
        }
      >
        <Flex direction="column" gap="2">
          <StorePlace place={place} onChange={setPlace} />
          <Use use={use} onChange={setUse} />
          <Failure error={add.error} />
        </Flex>
      </FormDialog>
    </>
  );
}

function Change(props: { project: string; view: StoreView }) {
  const [open, setOpen] = useState(false);
  const [use, setUse] = useState(() => asUsed(props.view));
  const change = useChangeStore(props.project);
  return (
    <>
      <Quiet
        needs="PLAN"
        onClick={() => {
          setUse(asUsed(props.view));
          setOpen(true);
        }}
      >
        {phrase("elsewhere.edit")}
      </Quiet>
      <FormDialog
        open={open}
        onOpen={setOpen}
        title={phrase("elsewhere.howIsUsed", { name: props.view.store.name })}
        onSubmit={() =>
          change.mutate({ store: props.view.store.id, use }, { onSuccess: () => setOpen(false) })
        }
        footer={
          <>
            <Side onClick={() => setOpen(false)}>{phrase("common.cancel")}</Side>
            <Main type="submit" loading={change.isPending} disabled={use.name.trim() === ""}>
              {phrase("elsewhere.apply")}
            </Main>
          </>
        }
      >
        <Use use={use} onChange={setUse} />
        <Failure error={change.error} />
      </FormDialog>
    </>
  );
}

function standing(view: StoreView): { words: string; tone: "loss" | "caution" | "muted" } {
  if (view.store.paused) return { words: phrase("elsewhere.pausedByHand"), tone: "caution" };
  if (view.problem !== undefined) return { words: view.problem, tone: "loss" };
  if (view.sending !== undefined)
    return { words: phrase("elsewhere.sending", { sending: view.sending }), tone: "muted" };
  if (view.answered === undefined) return { words: phrase("elsewhere.notAskedYet"), tone: "muted" };
  return view.waiting === 0
    ? { words: phrase("elsewhere.allThere"), tone: "muted" }
    : { words: phrase("elsewhere.sendingGoesOnInAMoment"), tone: "muted" };
}

/** A store with what lies there and what waits. */
export function Store(props: { project: string; view: StoreView; zone: string; now: number }) {
  const { view, zone, now } = props;
  const change = useChangeStore(props.project);
  const leave = useLeaveStore(props.project);
  const stands = standing(view);
  const use = asUsed(view);
  return (
    <Box
      borderTop="1px solid"
      borderColor="hairline"
      py="2"
      fontSize="13px"
      role="group"
      aria-label={view.store.name}
    >
      <Flex gap="3" align="baseline" wrap="wrap">
        <Text fontWeight="650">{view.store.name}</Text>
        <Text fontFamily="mono" fontSize="12px" color="muted" overflowWrap="anywhere">
          {view.store.address.replace(/^file:\/\//, "")}
          {view.store.service && ` ${phrase("elsewhere.at", { service: view.store.service })}`}
        </Text>
        {view.store.seal !== undefined && (
          <Text color="muted">{phrase("elsewhere.encrypted")}</Text>
        )}
        <Box flex="1" />
        <Quiet
          loading={change.isPending}
          onClick={() =>
            change.mutate({ store: view.store.id, use: { ...use, paused: !use.paused } })
          }
        >
          {use.paused ? phrase("elsewhere.goOnSending") : phrase("elsewhere.pause")}
        </Quiet>
        <Change project={props.project} view={view} />
        <Quiet loading={leave.isPending} onClick={() => leave.mutate(view.store.id)}>
          {phrase("elsewhere.sendNothingMoreThere")}
        </Quiet>
      </Flex>
      <Text>
        {count(view.copies, "copy")}, {size(view.bytes)}
        {view.verified !== undefined &&
          phrase("elsewhere.eachCheckedSince", { moment: moment(view.verified, zone, now) })}
        {view.waiting > 0 &&
          ` ${phrase("elsewhere.waitingToBeSent", { waiting: view.waiting, size: size(view.waitingBytes) })}`}
      </Text>
      <Text color={stands.tone} role="status" overflowWrap="anywhere">
        {stands.tone !== "muted" && "▲ "}
        {stands.words}
      </Text>
      {view.faults.map((f) => (
        <Text key={f} color="caution" overflowWrap="anywhere">
          ▲ {f}
        </Text>
      ))}
      <Failure error={change.error ?? leave.error} />
    </Box>
  );
}
