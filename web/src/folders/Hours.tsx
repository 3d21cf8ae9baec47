import { Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { PlaceLine } from "../api/schema";
import { useSetHours } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Main, Quiet, Side } from "../shared/parts";
import { Number, Tick } from "../shared/fields";
import { phrase } from "../words/phrase";

const MB = 1e6;
const short = (time: string) => time.slice(0, 5);

function words({ hours }: PlaceLine): string {
  const when =
    hours.from && hours.to
      ? phrase("folders.to", { from: short(hours.from), to: short(hours.to) })
      : phrase("folders.anyTime");
  const pace =
    hours.bytesPerSecond === 0
      ? phrase("folders.fullSpeed")
      : phrase("folders.atMostMbS", { bytesPerSecond: hours.bytesPerSecond / MB });
  return `${when}, ${pace}`;
}

function Editor({ place, onClose }: { place: PlaceLine; onClose: () => void }) {
  const { hours } = place;
  const [limited, setLimited] = useState(hours.from !== undefined);
  const [from, setFrom] = useState(short(hours.from ?? "19:00"));
  const [to, setTo] = useState(short(hours.to ?? "07:00"));
  const [rate, setRate] = useState(hours.bytesPerSecond / MB);
  const save = useSetHours();
  return (
    <FormDialog
      open
      onOpen={(open) => !open && onClose()}
      title={phrase("folders.whenAndHowFastKavrinWorks")}
      onSubmit={() =>
        save.mutate(
          {
            id: place.id,
            hours: {
              ...(limited && { from, to }),
              bytesPerSecond: Math.round(rate * MB),
            },
          },
          { onSuccess: onClose },
        )
      }
      footer={
        <>
          <Side onClick={onClose}>{phrase("common.leaveIt")}</Side>
          <Main type="submit" loading={save.isPending}>
            {phrase("folders.set")}
          </Main>
        </>
      }
    >
      <Text fontSize="13px" color="muted" mb="3">
        {phrase("folders.backingUpReadingLookingAndRe")}
      </Text>
      <Tick label={phrase("folders.onlyAtCertainHours")} on={limited} onChange={setLimited} />
      <Flex align="center" gap="2" my="2" fontSize="14px" color={limited ? "ink" : "muted"}>
        {phrase("folders.from")}
        <Time label={phrase("common.from")} value={from} disabled={!limited} onChange={setFrom} />
        {phrase("folders.to2")}
        <Time label={phrase("folders.to3")} value={to} disabled={!limited} onChange={setTo} />
      </Flex>
      <Flex align="center" gap="2" fontSize="14px">
        {phrase("folders.atMostMbS0Full", {
          number: (
            <Number
              label={phrase("folders.megabytesASecond")}
              value={rate}
              min={0}
              max={100000}
              onChange={setRate}
            />
          ),
        })}
      </Flex>
      <Failure error={save.error} />
    </FormDialog>
  );
}

function Time(props: {
  label: string;
  value: string;
  disabled: boolean;
  onChange: (value: string) => void;
}) {
  return (
    <Input
      type="time"
      size="xs"
      w="100px"
      borderColor="hairline"
      aria-label={props.label}
      value={props.value}
      disabled={props.disabled}
      onChange={(e) => props.onChange(e.target.value)}
    />
  );
}

/** When Kavrin works in a place, in words, and the way to change it. */
export function Hours({ place }: { place: PlaceLine }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      {words(place)}{" "}
      <Quiet
        onClick={() => setOpen(true)}
        aria-label={phrase("folders.changeTheHoursOf", { path: place.path })}
      >
        {phrase("folders.change")}
      </Quiet>
      {place.rests && (
        <Text color="caution" fontSize="12px">
          {phrase("folders.restsNow")}
        </Text>
      )}
      {open && <Editor place={place} onClose={() => setOpen(false)} />}
    </>
  );
}
