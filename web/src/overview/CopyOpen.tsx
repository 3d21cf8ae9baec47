import { Text } from "@chakra-ui/react";
import { useState } from "react";
import { api, data } from "../api/client";
import { useChange } from "../api/queries";
import { FormDialog, NoteField } from "../shared/FormDialog";
import { Failure, Main, PathText, Side } from "../shared/parts";
import { count } from "../shared/words";

const RECENT_MINUTES = 60;

/** Copies every document that is open, in all projects, as one moment. */
export function CopyOpen() {
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState("");
  const copy = useChange(() =>
    data(api.POST("/api/moments", { body: { note, minutes: RECENT_MINUTES } })),
  );
  const held = copy.data?.filter((c) => c.state) ?? [];
  return (
    <>
      <Side onClick={() => setOpen(true)}>Back up everything open</Side>
      <FormDialog
        open={open}
        size="md"
        onOpen={(now) => {
          setOpen(now);
          copy.reset();
        }}
        title="Back up everything open, as one moment"
        onSubmit={() => copy.mutate(undefined)}
        footer={
          <>
            <Side onClick={() => setOpen(false)}>{copy.isSuccess ? "Done" : "Leave it"}</Side>
            {!copy.isSuccess && (
              <Main type="submit" loading={copy.isPending}>
                Back up now
              </Main>
            )}
          </>
        }
      >
        <Text fontSize="13px" color="muted" mb="3">
          Open is every document whose program runs, and every one written within the last hour.
          What is on disk is backed up; save in the programs first.
        </Text>
        <NoteField note={note} onNote={setNote} placeholder="before the visit of the inspector" />
        {copy.data && (
          <Text mt="3" fontSize="13px" role="status">
            {copy.data.length === 0
              ? "Nothing is open: no program runs, and nothing was written in the last hour."
              : `${count(held.length, "document")} backed up as one moment.`}
          </Text>
        )}
        {copy.data?.map((c) => (
          <Text key={c.document} fontSize="12px" color={c.problem ? "loss" : "muted"}>
            {c.problem ? `✕ ${c.problem} ` : c.made ? "backed up " : "backed up already "}
            <PathText path={c.path} />
          </Text>
        ))}
        <Failure error={copy.error} />
      </FormDialog>
    </>
  );
}
