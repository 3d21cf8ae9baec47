import { Text } from "@chakra-ui/react";
import { useState } from "react";
import { useCopyNow, useNextWrite } from "../api/queries";
import { FormDialog, NoteField } from "../shared/FormDialog";
import { Failure, Key, Main, PathText, Side } from "../shared/parts";
import { age } from "../shared/words";

/** Copies what is on disk now, with a note if the person has one. */
export function CopyNow(props: {
  document: string;
  modified: string | undefined;
  now: number;
  open: boolean;
  /** In a row of many: a small button without its key. */
  brief?: boolean;
  onOpen: (open: boolean) => void;
}) {
  const [note, setNote] = useState("");
  const copy = useCopyNow();
  const next = useNextWrite();
  const written = props.modified
    ? `written ${age(props.now - new Date(props.modified).getTime())} ago`
    : "not there now";
  const done = copy.isSuccess || next.isSuccess;
  return (
    <>
      {props.brief ? (
        <Side
          needs="RESTORE"
          size="xs"
          onClick={() => props.onOpen(true)}
          disabled={!props.modified}
        >
          Back up now
        </Side>
      ) : (
        <Side needs="RESTORE" onClick={() => props.onOpen(true)} disabled={!props.modified}>
          Back up now <Key>n</Key>
        </Side>
      )}
      <FormDialog
        open={props.open}
        onOpen={(open) => {
          props.onOpen(open);
          copy.reset();
          next.reset();
        }}
        title={<>Back up now, {written}</>}
        onSubmit={() => copy.mutate({ id: props.document, note })}
        footer={
          <>
            <Side onClick={() => props.onOpen(false)}>{done ? "Done" : "Leave it"}</Side>
            {!done && (
              <>
                <Side
                  loading={next.isPending}
                  onClick={() => next.mutate({ id: props.document, note })}
                >
                  Wait for the next save
                </Side>
                <Main type="submit" loading={copy.isPending}>
                  Back up now
                </Main>
              </>
            )}
          </>
        }
      >
        <Text fontSize="13px" color="muted" mb="3">
          What the program has not written yet is not in it. Save there first, or let Kavrin back up
          the next save.
        </Text>
        <NoteField note={note} onNote={setNote} placeholder="before the heavy bake" />
        {copy.data && (
          <Text mt="3" fontSize="13px" role="status">
            {copy.data.made
              ? `Backed up, ${copy.data.verdict}: `
              : "The same bytes are backed up already: "}
            <PathText path={copy.data.path} />
          </Text>
        )}
        {next.isSuccess && (
          <Text mt="3" fontSize="13px" role="status">
            Save in the program now. As soon as the file rests, it is backed up.
          </Text>
        )}
        <Failure error={copy.error ?? next.error} />
      </FormDialog>
    </>
  );
}
