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
    return <Loading what="Looking what the documents use" />;
  if (!inHand || !links.data) {
    return (
      <Empty title="No document yet">
        <Failure error={links.error} />
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          Say where your work lies
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
        under="Pictures, materials, references and numbers that documents name. Paths are changed in a new file, which is checked and then replaces the file of today; that one is put aside."
      >
        <OneOf
          label="Whose links"
          size="sm"
          options={[
            { value: true, words: "the whole project" },
            { value: false, words: "this document" },
          ]}
          value={whole}
          onChange={setWhole}
        />
        <Side needs="RESTORE" over="everything" onClick={() => go(`/pack/${document}`)}>
          Export a package
        </Side>
      </PageHead>
      <Grid
        templateColumns={{ base: "minmax(0, 1fr)", lg: "1fr 400px" }}
        flex="1"
        minH="0"
        overflow={{ base: "auto", lg: "visible" }}
        gridAutoRows={{ base: "minmax(420px, auto)", lg: "auto" }}
      >
        <Box minH="0" overflow="auto" tabIndex={0} role="region" aria-label="Links">
          {rows.length === 0 ? (
            <Text p="4">
              No file is named in {whole ? "any document of this project" : inHand.document.name}.
              Models use pictures, drawings use references; in formats Kavrin cannot read it sees
              none.
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
