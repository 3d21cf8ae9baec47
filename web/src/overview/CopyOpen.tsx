import { Text } from "@chakra-ui/react";
import { useState } from "react";
import { api, data } from "../api/client";
import { useChange } from "../api/queries";
import { FormDialog, NoteField } from "../shared/FormDialog";
import { Failure, Main, PathText, Side } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

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
      <Side onClick={() => setOpen(true)}>{phrase("overview.backUpEverythingOpen")}</Side>
      <FormDialog
        open={open}
        size="md"
        onOpen={(now) => {
          setOpen(now);
          copy.reset();
        }}
        title={phrase("overview.backUpEverythingOpenAsOne")}
        onSubmit={() => copy.mutate(undefined)}
        footer={
          <>
            <Side onClick={() => setOpen(false)}>
              {copy.isSuccess ? phrase("common.done") : phrase("common.leaveIt")}
            </Side>
            {!copy.isSuccess && (
              <Main type="submit" loading={copy.isPending}>
                {phrase("overview.backUpNow")}
              </Main>
            )}
          </>
        }
      >
        <Text fontSize="13px" color="muted" mb="3">
          {phrase("overview.openIsEveryDocumentWhoseProgram")}
        </Text>
        <NoteField
          note={note}
          onNote={setNote}
          placeholder={phrase("overview.beforeTheVisitOfTheInspector")}
        />
        {copy.data && (
          <Text mt="3" fontSize="13px" role="status">
            {copy.data.length === 0
              ? phrase("overview.nothingIsOpenNoProgramRuns")
              : phrase("overview.backedUpAsOneMoment", {
                  documents: count(held.length, "document"),
                })}
          </Text>
        )}
        {copy.data?.map((c) => (
          <Text key={c.document} fontSize="12px" color={c.problem ? "loss" : "muted"}>
            {c.problem
              ? `✕ ${c.problem} `
              : c.made
                ? `${phrase("overview.backedUp")} `
                : `${phrase("overview.backedUpAlready")} `}
            <PathText path={c.path} />
          </Text>
        ))}
        <Failure error={copy.error} />
      </FormDialog>
    </>
  );
}
