import { Text } from "@chakra-ui/react";
import { useState } from "react";
import { useCopyNow, useNextWrite } from "../api/queries";
import { FormDialog, NoteField } from "../shared/FormDialog";
import { Failure, Key, Main, PathText, Side } from "../shared/parts";
import { age } from "../shared/words";
import { phrase } from "../words/phrase";

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
    ? phrase("versions.writtenAgo", { age: age(props.now - new Date(props.modified).getTime()) })
    : phrase("versions.notThereNow");
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
          {phrase("versions.backUpNow")}
        </Side>
      ) : (
        <Side needs="RESTORE" onClick={() => props.onOpen(true)} disabled={!props.modified}>
          {phrase("versions.backUpNow")} <Key>n</Key>
        </Side>
      )}
      <FormDialog
        open={props.open}
        onOpen={(open) => {
          props.onOpen(open);
          copy.reset();
          next.reset();
        }}
        title={<>{phrase("versions.backUpNow2", { written })}</>}
        onSubmit={() => copy.mutate({ id: props.document, note })}
        footer={
          <>
            <Side onClick={() => props.onOpen(false)}>
              {done ? phrase("common.done") : phrase("common.leaveIt")}
            </Side>
            {!done && (
              <>
                <Side
                  loading={next.isPending}
                  onClick={() => next.mutate({ id: props.document, note })}
                >
                  {phrase("versions.waitForTheNextSave")}
                </Side>
                <Main type="submit" loading={copy.isPending}>
                  {phrase("versions.backUpNow")}
                </Main>
              </>
            )}
          </>
        }
      >
        <Text fontSize="13px" color="muted" mb="3">
          {phrase("versions.whatTheProgramHasNotWritten")}
        </Text>
        <NoteField
          note={note}
          onNote={setNote}
          placeholder={phrase("versions.beforeTheHeavyBake")}
        />
        {copy.data && (
          <Text mt="3" fontSize="13px" role="status">
            {copy.data.made
              ? `${phrase("versions.backedUp", { verdict: copy.data.verdict })} `
              : `${phrase("versions.theSameBytesAreBackedUp")} `}
            <PathText path={copy.data.path} />
          </Text>
        )}
        {next.isSuccess && (
          <Text mt="3" fontSize="13px" role="status">
            {phrase("versions.saveInTheProgramNowAs")}
          </Text>
        )}
        <Failure error={copy.error ?? next.error} />
      </FormDialog>
    </>
  );
}
