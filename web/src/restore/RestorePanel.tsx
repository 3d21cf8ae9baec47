import { OneOf } from "../shared/fields";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Preview, ReceiptView } from "../api/schema";
import {
  type RestoreMode,
  useReceipts,
  useRestore,
  useRestorePreview,
  useUndo,
} from "../api/queries";
import { useWithLinks } from "../api/restoring";
import { useGo } from "../app/where";
import { Failure, Health, Loading, Main, Notice, PathText, Side } from "../shared/parts";
import { exactly } from "../shared/dates";
import { count, size } from "../shared/words";
import { CloseFirst } from "../shared/Open";

const MODES: [RestoreMode, string, string][] = [
  ["REPLACE", "Put aside and replace", "the present file is put aside, never deleted"],
  ["BESIDE", "Put beside", "the present file stays where it is"],
  ["NEXT", "As next number", "the present file stays where it is"],
  ["BRANCH", "As a trial beside", "to try something on; the present file stays where it is"],
  ["ELSEWHERE", "Into another folder", "on another drive, say; the present file stays where it is"],
];

export function howLong(seconds: number): string {
  return seconds < 1 ? "under a second" : `about ${Math.ceil(seconds)} s`;
}

function WhatHappens({ preview }: { preview: Preview }) {
  return (
    <Box fontSize="13px">
      {preview.aside && (
        <>
          <Text>The present file moves to</Text>
          <PathText path={preview.aside} />
        </>
      )}
      <Text mt={preview.aside ? "1" : "0"}>The copy becomes</Text>
      <PathText path={preview.target} />
      <Text color="muted" mt="1">
        {size(preview.bytes)}, {howLong(preview.seconds)}; {size(preview.free)} are free. Read back
        in full afterwards. Can be undone.
      </Text>
      {preview.copiesPresent && (
        <Text color="muted">
          Two names cannot be swapped in one step there: the present file is copied aside first,
          which the size and the time above include.
        </Text>
      )}
      {preview.cannotKeep.length > 0 && (
        <Notice tone="caution">
          Cannot be kept, because the user Kavrin runs as may not: {preview.cannotKeep.join(", ")}.
        </Notice>
      )}
      {preview.leftOut.length > 0 && (
        <Notice tone="caution">
          This is a light copy; it lacks {preview.leftOut.join("; ")}. Put it beside and restore
          those from another version.
        </Notice>
      )}
      {!preview.fits && (
        <Notice tone="loss">
          Not enough room: {size(preview.bytes)} are needed. Ways out: clear{" "}
          {size(preview.bytes - preview.free)} on that drive (Folders shows what can go), put the
          file into another folder on another drive, or restore a smaller version.
        </Notice>
      )}
      <CloseFirst open={preview.open} />
    </Box>
  );
}

/** The proof: what was put where, and that it reads back whole. */
export function ReceiptCard({ view }: { view: ReceiptView }) {
  const undo = useUndo();
  const { receipt } = view;
  const shown = undo.data ?? view;
  const undone = shown.receipt.mode === "undo";
  return (
    <Box fontSize="13px" role="status" data-testid="receipt">
      <Text fontWeight="650" fontSize="15px" color={undone ? "ink" : "fir"} mb="1">
        {undone ? "Undone." : "Restored and read back."}
      </Text>
      <PathText path={shown.receipt.target} />
      <Text mt="1">
        It is <Health verdict={shown.receipt.verdict} />, {size(contentSize(shown.receipt.content))}{" "}
        with digest{" "}
        <Text as="span" fontFamily="mono" fontSize="12px" wordBreak="break-all">
          {contentDigest(shown.receipt.content)}
        </Text>
      </Text>
      {shown.receipt.aside && (
        <Box mt="1">
          The file before it stands at <PathText path={shown.receipt.aside} />
        </Box>
      )}
      {shown.receipt.parts && !undone && (
        <Box as="ul" ps="4" mt="1">
          {shown.receipt.parts.map((part) => (
            <li key={part}>{part}</li>
          ))}
        </Box>
      )}
      {shown.receipt.told !== "" && <Notice tone="caution">{shown.receipt.told}</Notice>}
      <Text color="muted" mt="1">
        By {shown.receipt.who}, {exactly(shown.made)}
      </Text>
      <Failure error={undo.error} />
      <Side needs="RESTORE" mt="2" loading={undo.isPending} onClick={() => undo.mutate(shown.id)}>
        {undone
          ? "Undo the undoing"
          : receipt.aside
            ? "Undo: swap the two files back"
            : "Undo: put it aside again"}
      </Side>
    </Box>
  );
}

/** A content id is "length-digest". */
const contentSize = (content: string) => Number(content.slice(0, content.indexOf("-")));
const contentDigest = (content: string) => content.slice(content.indexOf("-") + 1);

/** What a state leans on and what is another file now: asked for, never brought along unasked. */
function Linked({ document, state }: { document: string; state: string }) {
  const table = useWithLinks(document, state);
  const { go } = useGo();
  const linked = table.data?.rows.filter((r) => r.linked) ?? [];
  const others = linked.filter((r) => r.state !== undefined && r.present !== r.state);
  if (linked.length === 0) return null;
  if (others.length === 0) {
    return (
      <Text fontSize="12px" color="muted">
        The {count(linked.length, "file")} it uses {linked.length === 1 ? "is" : "are"} as then.
      </Text>
    );
  }
  return (
    <Notice tone="caution">
      It uses {count(others.length, "file")} that {others.length === 1 ? "is" : "are"} not as then:{" "}
      {others.map((r) => r.name).join(", ")}. They stay as they are now, unless you want them back
      too.{" "}
      <Side size="xs" onClick={() => go(`/recover-several/${document}?state=${state}`)}>
        Bring them back with it
      </Side>
    </Notice>
  );
}

/** Choose where the copy goes, hear what will happen, do it, see the proof. */
export function RestorePanel(props: {
  document: string;
  state: string;
  /** The document whose state it is, if it is another: a trial that is taken over. */
  of?: string;
  onDone?: (receipt: ReceiptView) => void;
}) {
  const [mode, setMode] = useState<RestoreMode>("REPLACE");
  const [typed, setTyped] = useState("");
  const [folder, setFolder] = useState<string>();
  const named = mode === "ELSEWHERE" ? folder : undefined;
  const preview = useRestorePreview(props.document, props.state, mode, props.of, named);
  const restore = useRestore(props.document);
  const receipts = useReceipts(props.document);
  if (restore.data) return <ReceiptCard view={restore.data} />;
  const button = MODES.find(([m]) => m === mode)?.[1] ?? "";
  return (
    <Flex direction="column" gap="3">
      <OneOf
        label="Where the copy goes"
        options={MODES.map(([value, words, why]) => ({ value, words, why }))}
        value={mode}
        onChange={setMode}
      />
      {mode === "ELSEWHERE" && (
        <Flex
          as="form"
          gap="1.5"
          onSubmit={(e) => {
            e.preventDefault();
            setFolder(typed.trim());
          }}
        >
          <Input
            size="xs"
            fontFamily="mono"
            placeholder="/whole/path/of/the/folder"
            aria-label="Folder it goes into"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Side size="xs" type="submit" disabled={!typed.trim().startsWith("/")}>
            Look at it
          </Side>
        </Flex>
      )}
      {preview.isLoading && <Loading what="Reading the copy and the present file" />}
      <Failure error={preview.error} />
      {!props.of && <Linked document={props.document} state={props.state} />}
      {preview.data && <WhatHappens preview={preview.data} />}
      <Failure error={restore.error} />
      <Main
        needs="RESTORE"
        alignSelf="flex-start"
        disabled={!preview.data?.fits}
        loading={restore.isPending}
        onClick={() => {
          if (preview.data) {
            restore.mutate(
              {
                state: props.state,
                mode,
                digest: preview.data.digest,
                ...(named && { folder: named }),
                ...(props.of && { of: props.of }),
              },
              { onSuccess: (receipt) => props.onDone?.(receipt) },
            );
          }
        }}
      >
        {button}
      </Main>
      {receipts.data && receipts.data.length > 0 && (
        <Text fontSize="12px" color="muted">
          Last: {receipts.data[0]?.receipt.mode} by {receipts.data[0]?.receipt.who},{" "}
          {exactly(receipts.data[0]?.made ?? 0)}
        </Text>
      )}
    </Flex>
  );
}
