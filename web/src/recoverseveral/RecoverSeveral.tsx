import { OneOf } from "../shared/fields";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { AsOfRow, AsOfTable } from "../api/schema";
import { useSession } from "../api/queries";
import {
  useAsOf,
  useGroupPreview,
  useGroupRestore,
  useGroups,
  useWithLinks,
  type Wish,
} from "../api/restoring";
import { useWhere } from "../app/where";
import { useKeys } from "../shared/keys";
import { Empty, Failure, Key, Loading, Main, PageHead } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { count } from "../shared/words";
import { MomentField } from "../shared/MomentField";
import { Decision } from "./Decision";
import { Done } from "./Done";
import { WhatHappens } from "./WhatHappens";
import { phrase } from "../words/phrase";

type Choice = Record<string, { state?: string; mode?: Wish["mode"]; off?: boolean }>;

/** What goes back by the table and what a person chose otherwise. */
function wishesOf(rows: AsOfRow[], chosen: Choice): Wish[] {
  return rows.flatMap((row) => {
    const own = chosen[row.document] ?? {};
    const state = own.state ?? row.state;
    return state === undefined || own.off
      ? []
      : [{ document: row.document, state, mode: own.mode ?? "REPLACE" }];
  });
}

function title(table: AsOfTable, going: number, when: string): string {
  const documents = count(table.rows.length, "document");
  return phrase(table.incident ? "recoverseveral.goBackToCrash" : "recoverseveral.goBackTo", {
    going,
    documents,
    when,
  });
}

/** Several documents go back together: as of a moment, after a crash, or with what one leans on. */
export function RecoverSeveral() {
  const { inHand, overview } = useWhere();
  const [search, setSearch] = useSearchParams();
  const session = useSession();
  const now = useNow(30_000);
  const zone = session.data?.zone ?? "UTC";
  const project = inHand?.project.id ?? "";
  const state = search.get("state") ?? "";
  const incident = search.get("incident") ?? undefined;
  const at = search.get("at") ?? undefined;
  const asOf = useAsOf(project, { at, incident }, state === "");
  const linked = useWithLinks(inHand?.document.id ?? "", state);
  const table = state === "" ? asOf : linked;
  const [chosen, setChosen] = useState<Choice>({});
  const [then, setThen] = useState(true);
  const rows = useMemo(
    () => (table.data?.rows ?? []).filter((row) => then || !row.linked),
    [table.data, then],
  );
  const wishes = useMemo(() => wishesOf(rows, chosen), [rows, chosen]);
  const preview = useGroupPreview(project, wishes);
  const restore = useGroupRestore(project);
  const groups = useGroups(project);
  const going = new Set(preview.data?.items.map((i) => i.document)).size;
  const when = table.data ? moment(table.data.asOf, zone, now) : "";
  const ready = preview.data !== undefined && preview.data.fits && going > 0 && !restore.data;
  const go = () => {
    if (!ready || preview.isFetching || restore.isPending) return;
    const what = incident
      ? phrase("recoverseveral.afterTheCrashOf", { when })
      : phrase("recoverseveral.asOf", { when });
    restore.mutate({ what, wishes, digest: preview.data.digest });
  };
  useKeys({ r: go });

  if (overview.isPending || (project !== "" && table.isPending))
    return <Loading what={phrase("recoverseveral.lookingUpWhatThereWasThen")} />;
  if (!inHand || !table.data) {
    return (
      <Empty title={phrase("recoverseveral.nothingToGoBackTo")}>
        <Failure error={table.error} />
      </Empty>
    );
  }
  const links = table.data.rows.filter((row) => row.linked).length;
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={
          restore.data
            ? phrase("recoverseveral.backAsOf", { name: table.data.name, when })
            : title(table.data, going, when)
        }
        under={phrase("recoverseveral.allOfThemOrNoneWhat", { name: table.data.name })}
      >
        {!incident && state === "" && (
          <MomentField
            label={phrase("recoverseveral.asOf2")}
            value={table.data.asOf}
            zone={zone}
            onChange={(moved) => {
              if (moved === undefined) return;
              setChosen({});
              restore.reset();
              setSearch({ at: moved }, { replace: true });
            }}
          />
        )}
        {links > 0 && (
          <Flex gap="1.5" align="center" fontSize="13px">
            <Text>{count(links, "linked file")}</Text>
            <OneOf
              label={phrase("recoverseveral.linkedFiles")}
              options={[
                { value: true, words: phrase("recoverseveral.asTheyWereThen") },
                { value: false, words: phrase("recoverseveral.asTheyAreNow") },
              ]}
              value={then}
              onChange={setThen}
            />
          </Flex>
        )}
      </PageHead>
      <Box
        flex="1"
        minH="0"
        overflow="auto"
        tabIndex={0}
        role="region"
        aria-label={phrase("recoverseveral.whatGoesBack")}
      >
        {rows.length === 0 ? (
          <Text p="4">{phrase("recoverseveral.thereIsNoDocumentHereYet")}</Text>
        ) : (
          <Decision
            rows={rows}
            chosen={chosen}
            zone={zone}
            now={now}
            done={restore.data !== undefined}
            onChoose={(document, change) =>
              setChosen({ ...chosen, [document]: { ...chosen[document], ...change } })
            }
          />
        )}
        <Done groups={groups.data ?? []} newest={restore.data?.id} zone={zone} now={now} />
      </Box>
      <Flex
        borderTop="1px solid"
        borderColor="hairline"
        px="4"
        py="2.5"
        gap="4"
        align="center"
        minH="64px"
        fontSize="13px"
      >
        <Box flex="1" minW="0">
          <Failure error={restore.error ?? preview.error} />
          {preview.data && !restore.data && <WhatHappens preview={preview.data} />}
          {wishes.length === 0 && (
            <Text color="muted">{phrase("recoverseveral.nothingIsChosen")}</Text>
          )}
        </Box>
        {!restore.data && (
          <Main needs="RESTORE" disabled={!ready} loading={restore.isPending} onClick={go}>
            {phrase("recoverseveral.putAsideAndRestoreTogether", {
              documents: count(going, "document"),
            })}{" "}
            <Key>r</Key>
          </Main>
        )}
      </Flex>
    </Flex>
  );
}
