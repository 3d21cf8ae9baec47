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
import { phrase } from "../words/phrase";

const MODES: [RestoreMode, string, string][] = [
  ["REPLACE", phrase("restore.putAsideAndReplace"), phrase("restore.thePresentFileIsPutAside")],
  ["BESIDE", phrase("restore.putBeside"), phrase("restore.thePresentFileStaysWhereIt")],
  ["NEXT", phrase("restore.asNextNumber"), phrase("restore.thePresentFileStaysWhereIt")],
  ["BRANCH", phrase("restore.asATrialBeside"), phrase("restore.toTrySomethingOnThePresent")],
  ["ELSEWHERE", phrase("restore.intoAnotherFolder"), phrase("restore.onAnotherDriveSayThePresent")],
];

export function howLong(seconds: number): string {
  return seconds < 1
    ? phrase("restore.underASecond")
    : phrase("restore.aboutS", { seconds: Math.ceil(seconds) });
}

function WhatHappens({ preview }: { preview: Preview }) {
  return (
    <Box fontSize="13px">
      {preview.aside && (
        <>
          <Text>{phrase("restore.thePresentFileMovesTo")}</Text>
          <PathText path={preview.aside} />
        </>
      )}
      <Text mt={preview.aside ? "1" : "0"}>{phrase("restore.theCopyBecomes")}</Text>
      <PathText path={preview.target} />
      <Text color="muted" mt="1">
        {phrase("restore.areFreeReadBackInFull", {
          needed: size(preview.bytes),
          howLong: howLong(preview.seconds),
          free: size(preview.free),
        })}
      </Text>
      {preview.copiesPresent && (
        <Text color="muted">{phrase("restore.twoNamesCannotBeSwappedIn")}</Text>
      )}
      {preview.cannotKeep.length > 0 && (
        <Notice tone="caution">
          {phrase("restore.cannotBeKeptBecauseTheUser", {
            cannotKeep: preview.cannotKeep.join(", "),
          })}
        </Notice>
      )}
      {preview.leftOut.length > 0 && (
        <Notice tone="caution">
          {phrase("restore.thisIsALightCopyIt", { leftOut: preview.leftOut.join("; ") })}
        </Notice>
      )}
      {!preview.fits && (
        <Notice tone="loss">
          {phrase("restore.notEnoughRoomAreNeededWays", {
            size: size(preview.bytes),
            size2: size(preview.bytes - preview.free),
          })}
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
        {undone ? phrase("restore.undone") : phrase("restore.restoredAndReadBack")}
      </Text>
      <PathText path={shown.receipt.target} />
      <Text mt="1">
        {phrase("restore.itIs")} <Health verdict={shown.receipt.verdict} />
        {phrase("restore.withDigest", {
          size: size(contentSize(shown.receipt.content)),
          contentDigest: (
            <Text as="span" fontFamily="mono" fontSize="12px" wordBreak="break-all">
              {contentDigest(shown.receipt.content)}
            </Text>
          ),
        })}
      </Text>
      {shown.receipt.aside && (
        <Box mt="1">
          {phrase("restore.theFileBeforeItStandsAt", {
            pathText: <PathText path={shown.receipt.aside} />,
          })}
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
        {phrase("restore.by", { who: shown.receipt.who, exactly: exactly(shown.made) })}
      </Text>
      <Failure error={undo.error} />
      <Side needs="RESTORE" mt="2" loading={undo.isPending} onClick={() => undo.mutate(shown.id)}>
        {undone
          ? phrase("restore.undoTheUndoing")
          : receipt.aside
            ? phrase("restore.undoSwapTheTwoFilesBack")
            : phrase("restore.undoPutItAsideAgain")}
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
        {phrase("restore.theItUsesAsThen", {
          files: count(linked.length, "file"),
          linked: linked.length,
        })}
      </Text>
    );
  }
  return (
    <Notice tone="caution">
      {phrase("restore.itUsesThatNotAsThen", {
        files: count(others.length, "file"),
        many: others.length,
        others: others.map((r) => r.name).join(", "),
      })}{" "}
      <Side size="xs" onClick={() => go(`/recover-several/${document}?state=${state}`)}>
        {phrase("restore.bringThemBackWithIt")}
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
        label={phrase("restore.whereTheCopyGoes")}
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
            aria-label={phrase("restore.folderItGoesInto")}
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Side size="xs" type="submit" disabled={!typed.trim().startsWith("/")}>
            {phrase("restore.lookAtIt")}
          </Side>
        </Flex>
      )}
      {preview.isLoading && <Loading what={phrase("restore.readingTheCopyAndThePresent")} />}
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
          {phrase("restore.lastBy", {
            mode: receipts.data[0]?.receipt.mode,
            who: receipts.data[0]?.receipt.who,
            exactly: exactly(receipts.data[0]?.made ?? 0),
          })}
        </Text>
      )}
    </Flex>
  );
}
