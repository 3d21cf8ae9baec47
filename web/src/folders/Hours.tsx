import { Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { PlaceLine } from "../api/schema";
import { useSetHours } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Main, Quiet, Side } from "../shared/parts";
import { Number, Tick } from "../shared/fields";

const MB = 1e6;
const short = (time: string) => time.slice(0, 5);

function words({ hours }: PlaceLine): string {
  const when = hours.from && hours.to ? `${short(hours.from)} to ${short(hours.to)}` : "any time";
  const pace =
    hours.bytesPerSecond === 0 ? "full speed" : `at most ${hours.bytesPerSecond / MB} MB/s`;
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
      title="When and how fast Kavrin works there"
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
          <Side onClick={onClose}>Leave it</Side>
          <Main type="submit" loading={save.isPending}>
            Set
          </Main>
        </>
      }
    >
      <Text fontSize="13px" color="muted" mb="3">
        Backing up, reading, looking and re-checking keep to this. Outside the hours backups wait
        and are made up for; you hear of it beside the document.
      </Text>
      <Tick label="only at certain hours" on={limited} onChange={setLimited} />
      <Flex align="center" gap="2" my="2" fontSize="14px" color={limited ? "ink" : "muted"}>
        from
        <Time label="From" value={from} disabled={!limited} onChange={setFrom} />
        to
        <Time label="To" value={to} disabled={!limited} onChange={setTo} />
      </Flex>
      <Flex align="center" gap="2" fontSize="14px">
        at most
        <Number label="Megabytes a second" value={rate} min={0} max={100000} onChange={setRate} />
        MB/s (0: full speed)
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
      <Quiet onClick={() => setOpen(true)} aria-label={`Change the hours of ${place.path}`}>
        change
      </Quiet>
      {place.rests && (
        <Text color="caution" fontSize="12px">
          rests now
        </Text>
      )}
      {open && <Editor place={place} onClose={() => setOpen(false)} />}
    </>
  );
}
