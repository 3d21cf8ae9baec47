import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type DocumentCoverage, type ElsewhereView, useElsewhere, useRule } from "../api/elsewhere";
import { useSession } from "../api/queries";
import { useGo, useWhere } from "../app/where";
import { Number } from "../shared/fields";
import { Head } from "../shared/Head";
import { Empty, Failure, Loading, Main, PageHead, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { age, count } from "../shared/words";
import { RecoverySheet } from "./RecoverySheet";
import { AddStore, Store } from "./Stores";
import { phrase } from "../words/phrase";

/** What the loss of the site would cost, in words; undefined is everything. */
export const siteLoss = (seconds: number | undefined) =>
  seconds === undefined
    ? phrase("elsewhere.allOfIt")
    : seconds < 1
      ? phrase("elsewhere.nothing")
      : age(seconds * 1000);

function Rule(props: { project: string; view: ElsewhereView }) {
  const { rule } = props.view.coverage;
  const change = useRule(props.project);
  const set = (changes: Partial<typeof rule>) => change.mutate({ ...rule, ...changes });
  return (
    <Box fontSize="13px">
      <Flex gap="1.5" align="baseline" wrap="wrap">
        <span>{phrase("elsewhere.wantedOfEachNewestVersion")}</span>
        <Number
          label={phrase("elsewhere.copiesWanted")}
          min={rule.disks}
          max={9}
          value={rule.copies}
          onChange={(copies) => set({ copies })}
        />
        <span>{phrase("elsewhere.copiesOn")}</span>
        <Number
          label={phrase("elsewhere.disksWanted")}
          min={1}
          max={rule.copies}
          value={rule.disks}
          onChange={(disks) => set({ disks })}
        />
        <span>{phrase("elsewhere.disks")}</span>
        <Number
          label={phrase("elsewhere.copiesWantedElsewhere")}
          min={0}
          max={rule.copies}
          value={rule.elsewhere}
          onChange={(elsewhere) => set({ elsewhere })}
        />
        <span>{phrase("elsewhere.ofThemElsewhereTheLiveFile")}</span>
      </Flex>
      <Failure error={change.error} />
    </Box>
  );
}

function met(d: DocumentCoverage) {
  if (d.work === undefined)
    return { words: phrase("elsewhere.noWholeVersionYet"), tone: "caution" };
  if (d.answer === "YES") return { words: phrase("elsewhere.yes"), tone: "ink" };
  return {
    words: `${d.answer === "PERHAPS" ? phrase("elsewhere.perhaps") : phrase("elsewhere.no")}: ${d.lacks.join(", ")}`,
    tone: d.answer === "PERHAPS" ? "caution" : "loss",
  };
}

function Row({ d, zone, now }: { d: DocumentCoverage; zone: string; now: number }) {
  const rule = met(d);
  const lost = d.work !== undefined && (d.siteLost === undefined || d.siteLost > 0);
  return (
    <Table.Row bg="transparent">
      <Table.Cell fontWeight="600" overflowWrap="anywhere">
        {d.path}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.work === undefined ? phrase("elsewhere.none") : moment(d.work, zone, now)}
      </Table.Cell>
      <Table.Cell>{d.coverage.copies}</Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.coverage.disks}
        {d.coverage.perhaps > 0 &&
          ` ${phrase("elsewhere.or", { disks: d.coverage.disks + d.coverage.perhaps })}`}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.coverage.verified === undefined
          ? phrase("elsewhere.notThere")
          : phrase("elsewhere.checked", { moment: moment(d.coverage.verified, zone, now) })}
      </Table.Cell>
      <Table.Cell color={rule.tone}>{rule.words}</Table.Cell>
      <Table.Cell color={lost ? "loss" : "muted"} whiteSpace="nowrap">
        {d.work === undefined ? phrase("elsewhere.unknown") : siteLoss(d.siteLost)}
      </Table.Cell>
    </Table.Row>
  );
}

function title(name: string, { coverage }: ElsewhereView) {
  if (coverage.documents.every((d) => d.work === undefined))
    return phrase("elsewhere.hasNoVersionYet", { name });
  if (coverage.siteLost === undefined)
    return coverage.elsewhere === 0
      ? phrase("elsewhere.ifThisSiteWereLostNow", { name })
      : phrase("elsewhere.ifThisSiteWereLostNow2", { name });
  return coverage.siteLost < 1
    ? phrase("elsewhere.ifThisSiteWereLostNow3", { name })
    : phrase("elsewhere.ifThisSiteWereLostNow4", { name, age: age(coverage.siteLost * 1000) });
}

function Page({ project, name }: { project: string; name: string }) {
  const elsewhere = useElsewhere(project);
  const session = useSession();
  const now = useNow(10_000);
  const zone = session.data?.zone ?? "UTC";
  const { go } = useGo();
  const [paper, setPaper] = useState(false);
  const view = elsewhere.data;
  if (elsewhere.isPending) return <Loading what={phrase("elsewhere.lookingWhereTheCopiesLie")} />;
  if (!view) return <Failure error={elsewhere.error} />;
  const { coverage, stores } = view;
  if (paper)
    return <RecoverySheet name={name} view={view} zone={zone} onBack={() => setPaper(false)} />;
  return (
    <Box>
      <PageHead
        title={title(name, view)}
        under={phrase("elsewhere.ofWithAllTheCopiesThat", {
          met: coverage.met,
          documents: count(coverage.documents.length, "document"),
          elsewhere: coverage.elsewhere,
        })}
      >
        <Side needs="ADMINISTER" over="everything" onClick={() => go("/bring-back")}>
          {phrase("elsewhere.bringBackFromAStore")}
        </Side>
        {stores.length > 0 && (
          <Side onClick={() => setPaper(true)}>{phrase("elsewhere.recoverySheet")}</Side>
        )}
        <AddStore project={project} />
      </PageHead>
      <Box px="4" pb="3">
        {stores.length === 0 ? (
          <Text fontSize="13px" py="2">
            {phrase("elsewhere.nothingIsSentElsewhereABucket")}
          </Text>
        ) : (
          stores.map((s) => (
            <Store key={s.store.id} project={project} view={s} zone={zone} now={now} />
          ))
        )}
        <Flex borderTop="1px solid" borderColor="hairline" pt="2">
          <Rule project={project} view={view} />
        </Flex>
        <Table.ScrollArea
          position="relative"
          tabIndex={0}
          role="region"
          aria-label={phrase("elsewhere.whereTheNewestVersionsLie")}
          mt="2"
        >
          <Table.Root
            size="sm"
            fontSize="13px"
            minW="860px"
            whiteSpace="normal"
            css={{ "& td, & th": { borderColor: "hairline", verticalAlign: "top" } }}
          >
            <Head
              columns={[
                phrase("common.document"),
                phrase("elsewhere.newestWholeVersion"),
                phrase("elsewhere.copies"),
                phrase("elsewhere.disks2"),
                phrase("elsewhere.elsewhere"),
                phrase("elsewhere.asWanted"),
                phrase("elsewhere.lostWithTheSite"),
              ]}
            />
            <Table.Body>
              {coverage.documents.map((d) => (
                <Row key={d.id} d={d} zone={zone} now={now} />
              ))}
            </Table.Body>
          </Table.Root>
        </Table.ScrollArea>
      </Box>
    </Box>
  );
}

/** Where the copies of a project lie, and what the loss of the site would cost. */
export function Elsewhere() {
  const { inHand, overview } = useWhere();
  const { go } = useGo();
  if (overview.isPending) return <Loading what={phrase("elsewhere.opening")} />;
  if (!inHand)
    return (
      <Empty title={phrase("elsewhere.noProjectYet")}>
        <Text mb="3">{phrase("elsewhere.aProjectThatWasLostWith")}</Text>
        <Main needs="ADMINISTER" over="everything" onClick={() => go("/bring-back")}>
          {phrase("elsewhere.bringBackFromAStore")}
        </Main>
      </Empty>
    );
  return <Page key={inHand.project.id} project={inHand.project.id} name={inHand.project.name} />;
}
