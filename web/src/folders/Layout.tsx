import { Box, Table, Text, Textarea } from "@chakra-ui/react";
import { useDeferredValue, useState } from "react";
import type { LayoutView } from "../api/schema";
import { useLayoutCheck, useLayoutText, useMakeLayout } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Loading, Main, Quiet, Side } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

/** What the layout would make, and what lies elsewhere than it says. */
function Compared({ view }: { view: LayoutView }) {
  return (
    <Box aria-live="polite" fontSize="13px">
      <Text>
        {view.missing.length === 0
          ? phrase("folders.allItsFoldersAreThere")
          : phrase("folders.wouldBeMade", { missing: view.missing.join(", ") })}
      </Text>
      <Text mt="1" fontWeight="650">
        {view.misfiled.length === 0
          ? phrase("folders.noFileLiesInTheWrong")
          : phrase("folders.inTheWrongBranchKavrinMoves", {
              files: count(view.misfiled.length, "file"),
            })}
      </Text>
      <Box maxH="170px" overflow="auto">
        <Table.Root size="sm" css={{ "& td": { borderColor: "hairline", py: "3px" } }}>
          <Table.Body>
            {view.misfiled.map((m) => (
              <Table.Row key={m.path} bg="transparent">
                <Table.Cell fontFamily="mono" fontSize="12px">
                  {m.path}
                </Table.Cell>
                <Table.Cell>{phrase("folders.belongsIn", { belongs: m.belongs })}</Table.Cell>
                <Table.Cell color="caution" fontSize="12px">
                  {m.breaks.length > 0 &&
                    phrase("folders.movingItBreaksLinksOf", { breaks: m.breaks.join(", ") })}
                </Table.Cell>
              </Table.Row>
            ))}
          </Table.Body>
        </Table.Root>
      </Box>
    </Box>
  );
}

function Editor(props: { project: string; name: string; onClose: () => void }) {
  const saved = useLayoutText(props.project);
  const [typed, setTyped] = useState<string>();
  const text = typed ?? saved.data?.text ?? "";
  const asked = useDeferredValue(text);
  const check = useLayoutCheck(props.project, asked);
  const make = useMakeLayout(props.project);
  const view = make.data ?? check.data;
  return (
    <FormDialog
      open
      size="xl"
      onOpen={(open) => !open && props.onClose()}
      title={phrase("folders.folderLayoutOf", { name: props.name })}
      onSubmit={() => make.mutate(text)}
      footer={
        <>
          <Side onClick={props.onClose}>
            {make.isSuccess ? phrase("common.done") : phrase("common.leaveIt")}
          </Side>
          <Main type="submit" disabled={check.isError || text === ""} loading={make.isPending}>
            {view && view.missing.length > 0
              ? phrase("folders.makeTheFolders")
              : phrase("folders.keepThisLayout")}
          </Main>
        </>
      }
    >
      <Text fontSize="13px" color="muted" mb="2">
        {phrase("folders.oneFolderALineItsPath")}
      </Text>
      {saved.isPending && <Loading what={phrase("folders.readingTheLayout")} />}
      <Textarea
        aria-label={phrase("folders.folderLayout")}
        fontFamily="mono"
        fontSize="13px"
        rows={8}
        borderColor="hairline"
        value={text}
        onChange={(e) => {
          make.reset();
          setTyped(e.target.value);
        }}
      />
      <Box mt="3" minH="110px">
        {make.isSuccess && (
          <Text fontSize="13px" color="fir" role="status">
            {phrase("folders.theLayoutIsKeptAndIts")}
          </Text>
        )}
        {view && !check.isError && <Compared view={view} />}
        <Failure error={saved.error ?? check.error ?? make.error} />
      </Box>
    </FormDialog>
  );
}

/** Opens the folder layout of the project whose work lies in a place. */
export function Layout({ project, name }: { project: string; name: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Quiet onClick={() => setOpen(true)} aria-label={phrase("folders.folderLayoutOf", { name })}>
        {phrase("folders.folderLayout2")}
      </Quiet>
      {open && <Editor project={project} name={name} onClose={() => setOpen(false)} />}
    </>
  );
}
