import { Box, Table, Text, Textarea } from "@chakra-ui/react";
import { useDeferredValue, useState } from "react";
import type { LayoutView } from "../api/schema";
import { useLayoutCheck, useLayoutText, useMakeLayout } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Loading, Main, Quiet, Side } from "../shared/parts";
import { count } from "../shared/words";

/** What the layout would make, and what lies elsewhere than it says. */
function Compared({ view }: { view: LayoutView }) {
  return (
    <Box aria-live="polite" fontSize="13px">
      <Text>
        {view.missing.length === 0
          ? "All its folders are there."
          : `Would be made: ${view.missing.join(", ")}.`}
      </Text>
      <Text mt="1" fontWeight="650">
        {view.misfiled.length === 0
          ? "No file lies in the wrong branch."
          : `${count(view.misfiled.length, "file")} in the wrong branch; Kavrin moves none`}
      </Text>
      <Box maxH="170px" overflow="auto">
        <Table.Root size="sm" css={{ "& td": { borderColor: "hairline", py: "3px" } }}>
          <Table.Body>
            {view.misfiled.map((m) => (
              <Table.Row key={m.path} bg="transparent">
                <Table.Cell fontFamily="mono" fontSize="12px">
                  {m.path}
                </Table.Cell>
                <Table.Cell>belongs in {m.belongs}</Table.Cell>
                <Table.Cell color="caution" fontSize="12px">
                  {m.breaks.length > 0 && `moving it breaks links of ${m.breaks.join(", ")}`}
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
      title={`Folder layout of ${props.name}`}
      onSubmit={() => make.mutate(text)}
      footer={
        <>
          <Side onClick={props.onClose}>{make.isSuccess ? "Done" : "Leave it"}</Side>
          <Main type="submit" disabled={check.isError || text === ""} loading={make.isPending}>
            {view && view.missing.length > 0 ? "Make the folders" : "Keep this layout"}
          </Main>
        </>
      }
    >
      <Text fontSize="13px" color="muted" mb="2">
        One folder a line: its path, a colon, the names that belong there with * for anything. Set
        it before the first save, so that links do not break later. Existing files are never moved.
      </Text>
      {saved.isPending && <Loading what="Reading the layout" />}
      <Textarea
        aria-label="Folder layout"
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
            The layout is kept and its folders are there.
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
      <Quiet onClick={() => setOpen(true)} aria-label={`Folder layout of ${name}`}>
        folder layout
      </Quiet>
      {open && <Editor project={project} name={name} onClose={() => setOpen(false)} />}
    </>
  );
}
