import { OneOf } from "../shared/fields";
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { useLinks } from "../api/linking";
import { useSession } from "../api/queries";
import { useGo, useWhere } from "../app/where";
import { Empty, Failure, Loading, Main, PageHead, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { LinkTable } from "./LinkTable";
import { Rule } from "./Rule";
import { Serve } from "./Serve";
import { Write } from "./Write";
import { headline, isLost, keyOf } from "./words";
import { phrase } from "../words/phrase";

const folderOf = (file: string) => file.replace(/\/[^/]*$/, "");

/** What documents lean on, what of it is missing or changed, and leading them there again. */
export function Links() {
  const { inHand, overview } = useWhere();
  const { go } = useGo();
  const session = useSession();
  const now = useNow(30_000);
  const zone = session.data?.zone ?? "UTC";
  const project = inHand?.project.id ?? "";
  const links = useLinks(project);
  const [whole, setWhole] = useState(true);
  const [selected, setSelected] = useState<string>();
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const document = inHand?.document.id ?? "";
  const rows = useMemo(
    () => (links.data ?? []).filter((r) => whole || r.document === document),
    [links.data, whole, document],
  );
  const choices = useMemo(
    () =>
      (links.data ?? []).flatMap((r) => {
        const file = chosen[keyOf(r)];
        return file === undefined ? [] : [{ document: r.document, uri: r.uri, file }];
      }),
    [links.data, chosen],
  );
  if (overview.isPending || (project !== "" && links.isPending))
    return <Loading what={phrase("links.lookingWhatTheDocumentsUse")} />;
  if (!inHand || !links.data) {
    return (
      <Empty title={phrase("common.noDocumentYet")}>
        <Failure error={links.error} />
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("links.sayWhereYourWorkLies")}
        </Main>
      </Empty>
    );
  }
  const row = rows.find((r) => keyOf(r) === selected) ?? rows.find(isLost) ?? rows[0];
  const firstLost = rows.find(isLost);
  const choose = (key: string, file: string | undefined) =>
    setChosen((before) => {
      const others = Object.fromEntries(Object.entries(before).filter(([k]) => k !== key));
      return file === undefined ? others : { ...others, [key]: file };
    });
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={
          <Text as="span" color={firstLost ? "loss" : undefined}>
            {headline(rows, whole ? inHand.project.name : inHand.document.name)}
          </Text>
        }
        under={phrase("links.picturesMaterialsReferencesAndNumbersThat")}
      >
        <OneOf
          label={phrase("links.whoseLinks")}
          size="sm"
          options={[
            { value: true, words: phrase("links.theWholeProject") },
            { value: false, words: phrase("links.thisDocument") },
          ]}
          value={whole}
          onChange={setWhole}
        />
        <Side needs="RESTORE" over="everything" onClick={() => go(`/pack/${document}`)}>
          {phrase("common.exportAPackage")}
        </Side>
      </PageHead>
      <Grid
        templateColumns={{ base: "minmax(0, 1fr)", lg: "1fr 400px" }}
        flex="1"
        minH="0"
        overflow={{ base: "auto", lg: "visible" }}
        gridAutoRows={{ base: "minmax(420px, auto)", lg: "auto" }}
      >
        <Box minH="0" overflow="auto" tabIndex={0} role="region" aria-label={phrase("links.links")}>
          {rows.length === 0 ? (
            <Text p="4">
              {phrase("links.noFileIsNamedInModels", {
                where: whole ? phrase("links.anyDocumentOfThisProject") : inHand.document.name,
              })}
            </Text>
          ) : (
            <LinkTable
              rows={rows}
              chosen={chosen}
              selected={row && keyOf(row)}
              zone={zone}
              now={now}
              onSelect={(r) => setSelected(keyOf(r))}
            />
          )}
        </Box>
        <Flex
          direction="column"
          gap="4"
          p="4"
          borderLeft="1px solid"
          borderColor="hairline"
          overflow="auto"
        >
          <Write choices={choices} onDone={() => setChosen({})} />
          {row && (
            <Serve
              key={keyOf(row)}
              row={row}
              choice={chosen[keyOf(row)]}
              onChoose={(file) => choose(keyOf(row), file)}
            />
          )}
          <Rule
            key={firstLost?.file ?? ""}
            project={project}
            from={firstLost ? folderOf(firstLost.file) : ""}
            onFound={(found) =>
              setChosen((before) => ({
                ...before,
                ...Object.fromEntries(found.map((f) => [keyOf(f), f.file])),
              }))
            }
          />
        </Flex>
      </Grid>
    </Flex>
  );
}
