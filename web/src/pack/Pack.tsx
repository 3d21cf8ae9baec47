import { Box, Flex, Grid, Input, Table, Text, Textarea } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { usePack, usePackPreview } from "../api/bundling";
import { useVersions } from "../api/queries";
import { useAsOf } from "../api/restoring";
import { useGo, useWhere } from "../app/where";
import { Labelled, OneOf, Tick } from "../shared/fields";
import { Empty, Failure, Loading, Main, Notice, PageHead } from "../shared/parts";
import { count, size } from "../shared/words";
import { asked } from "./asked";
import { CheckBundle } from "./CheckBundle";
import { FinalArchive } from "./FinalArchive";
import { OtherFormats } from "./OtherFormats";
import { Progress } from "./Progress";
import { Head } from "../shared/Head";
import { phrase } from "../words/phrase";

const KINDS: Record<string, string> = {
  document: phrase("pack.document"),
  linked: phrase("pack.linkedFile"),
  step: phrase("pack.fileOfAStep"),
};

/** Packs work with all it uses into one folder that opens elsewhere. */
export function Pack() {
  const { inHand, overview } = useWhere();
  const { go } = useGo();
  const [search] = useSearchParams();
  const document = inHand?.document.id ?? "";
  const trail = useVersions(document);
  const [whole, setWhole] = useState(false);
  const project = useAsOf(inHand?.project.id ?? "", {}, whole);
  const [folder, setFolder] = useState("");
  const [name, setName] = useState("");
  const [note, setNote] = useState("");
  const [questions, setQuestions] = useState("");
  const [mark, setMark] = useState("");
  const [allowed, setAllowed] = useState<string[]>([]);
  const pack = usePack();
  const state = search.get("state") ?? trail.data?.states.find((s) => s.verdict === "INTACT")?.id;
  const choices = useMemo(
    () =>
      whole
        ? (project.data?.rows ?? []).flatMap((r) =>
            r.state === undefined || r.linked ? [] : [{ document: r.document, state: r.state }],
          )
        : state === undefined
          ? []
          : [{ document, state }],
    [whole, project.data, document, state],
  );
  const preview = usePackPreview(choices);
  if (overview.isPending || (document !== "" && trail.isPending))
    return <Loading what={phrase("pack.lookingWhatThereIsToPack")} />;
  if (!inHand) {
    return (
      <Empty title={phrase("common.noDocumentYet")}>
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("pack.sayWhereYourWorkLies")}
        </Main>
        <Box mt="6">
          <CheckBundle />
        </Box>
      </Empty>
    );
  }
  const files = preview.data?.files ?? [];
  const going = files.filter((f) => f.ask === undefined || allowed.includes(f.original));
  const bytes = going.reduce((sum, f) => sum + f.size, 0);
  const missing = Object.entries(preview.data?.missing ?? {});
  const called = name.trim() === "" ? (whole ? inHand.project.name : inHand.document.name) : name;
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={phrase("pack.pack", {
          what: whole ? inHand.project.name : inHand.document.name,
          files: count(going.length, "file"),
          size: size(bytes),
        })}
        under={phrase("pack.intoOneFolderOrZipWith")}
      >
        <Main
          needs="RESTORE"
          over="everything"
          disabled={files.length === 0 || !folder.trim().startsWith("/")}
          loading={pack.isPending}
          onClick={() =>
            pack.mutate({
              choices,
              folder: folder.trim(),
              allowed,
              name: called,
              note,
              questions,
              mark: mark.trim(),
            })
          }
        >
          {phrase("pack.pack2", { size: size(bytes) })}
        </Main>
      </PageHead>
      <Grid
        templateColumns={{ base: "minmax(0, 1fr)", lg: "360px 1fr" }}
        flex="1"
        minH="0"
        overflow={{ base: "auto", lg: "visible" }}
        gridAutoRows={{ base: "minmax(420px, auto)", lg: "auto" }}
      >
        <Flex
          direction="column"
          gap="3"
          p="4"
          borderRight="1px solid"
          borderColor="hairline"
          overflow="auto"
          fontSize="13px"
        >
          <OneOf
            label={phrase("pack.whatIsPacked")}
            options={[
              { value: false, words: inHand.document.name },
              { value: true, words: phrase("pack.allOf", { name: inHand.project.name }) },
            ]}
            value={whole}
            onChange={setWhole}
          />
          <Labelled label={phrase("pack.intoTheFolderOrAZip")}>
            <Input
              size="sm"
              fontFamily="mono"
              fontSize="12px"
              placeholder="/whole/path/of/a/new/folder"
              value={folder}
              onChange={(e) => setFolder(e.target.value)}
            />
          </Labelled>
          <Labelled label={phrase("pack.called")}>
            <Input
              size="sm"
              placeholder={called}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          </Labelled>
          <Labelled label={phrase("pack.notes")}>
            <Textarea size="sm" rows={3} value={note} onChange={(e) => setNote(e.target.value)} />
          </Labelled>
          <Labelled label={phrase("pack.openQuestions")}>
            <Textarea
              size="sm"
              rows={2}
              value={questions}
              onChange={(e) => setQuestions(e.target.value)}
            />
          </Labelled>
          <Labelled
            label={phrase("pack.markTheseVersions")}
            under={phrase("pack.aMarkedVersionStaysWhateverThe")}
          >
            <Input
              size="sm"
              placeholder={phrase("pack.issued")}
              value={mark}
              onChange={(e) => setMark(e.target.value)}
            />
          </Labelled>
          <Failure error={pack.error ?? preview.error} />
          <Progress />
          {state !== undefined && !whole && (
            <OtherFormats document={document} state={state} name={inHand.document.name} />
          )}
          <FinalArchive project={inHand.project.id} name={inHand.project.name} note={note} />
          <CheckBundle />
        </Flex>
        <Box
          minH="0"
          overflow="auto"
          tabIndex={0}
          role="region"
          aria-label={phrase("pack.whatGoesAlong")}
          aria-busy={preview.isFetching}
        >
          {missing.map(([of, links]) => (
            <Notice key={of} tone="caution">
              {phrase("pack.usesWhichNobodyHasTheRest", { of, links: links.join(", ") })}
            </Notice>
          ))}
          {choices.length === 0 && <Text p="4">{phrase("pack.thereIsNoIntactVersionTo")}</Text>}
          {files.length > 0 && (
            <Table.Root
              size="sm"
              fontSize="13px"
              css={{ "& td, & th": { borderColor: "hairline" } }}
            >
              <Head
                ground
                columns={[phrase("pack.inTheBundle"), phrase("common.what"), phrase("pack.size")]}
              />
              <Table.Body>
                {files.map((f) => (
                  <Table.Row key={f.path} bg="transparent">
                    <Table.Cell fontFamily="mono" fontSize="12px" wordBreak="break-all">
                      {phrase("pack.data", { path: f.path })}
                      {f.path !== f.original && (
                        <Text color="muted">
                          {phrase("pack.isCalledHere", { original: f.original })}
                        </Text>
                      )}
                      {Object.entries(f.names).map(([from, to]) => (
                        <Text key={from} color="muted">
                          {phrase("pack.willNameInsteadOf", { to, from })}
                        </Text>
                      ))}
                      {f.cannot.map((name) => (
                        <Text key={name} color="caution">
                          {phrase("pack.goesOnNamingWhichWillNot", { name })}
                        </Text>
                      ))}
                    </Table.Cell>
                    <Table.Cell whiteSpace="nowrap">
                      {KINDS[f.kind] ?? f.kind}
                      {f.ask !== undefined && (
                        <Tick
                          label={asked(f.ask)}
                          on={allowed.includes(f.original)}
                          onChange={(on) =>
                            setAllowed((before) =>
                              on ? [...before, f.original] : before.filter((o) => o !== f.original),
                            )
                          }
                        />
                      )}
                      {f.asNow && <Text color="caution">{phrase("pack.asItIsNow")}</Text>}
                    </Table.Cell>
                    <Table.Cell whiteSpace="nowrap">{size(f.size)}</Table.Cell>
                  </Table.Row>
                ))}
              </Table.Body>
            </Table.Root>
          )}
        </Box>
      </Grid>
    </Flex>
  );
}
