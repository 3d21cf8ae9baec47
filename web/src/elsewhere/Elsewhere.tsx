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

/** What the loss of the site would cost, in words; undefined is everything. */
export const siteLoss = (seconds: number | undefined) =>
  seconds === undefined ? "all of it" : seconds < 1 ? "nothing" : age(seconds * 1000);

function Rule(props: { project: string; view: ElsewhereView }) {
  const { rule } = props.view.coverage;
  const change = useRule(props.project);
  const set = (changes: Partial<typeof rule>) => change.mutate({ ...rule, ...changes });
  return (
    <Box fontSize="13px">
      <Flex gap="1.5" align="baseline" wrap="wrap">
        <span>Wanted of each newest version:</span>
        <Number
          label="Copies wanted"
          min={rule.disks}
          max={9}
          value={rule.copies}
          onChange={(copies) => set({ copies })}
        />
        <span>copies on</span>
        <Number
          label="Disks wanted"
          min={1}
          max={rule.copies}
          value={rule.disks}
          onChange={(disks) => set({ disks })}
        />
        <span>disks,</span>
        <Number
          label="Copies wanted elsewhere"
          min={0}
          max={rule.copies}
          value={rule.elsewhere}
          onChange={(elsewhere) => set({ elsewhere })}
        />
        <span>of them elsewhere. The live file counts as one.</span>
      </Flex>
      <Failure error={change.error} />
    </Box>
  );
}

function met(d: DocumentCoverage) {
  if (d.work === undefined) return { words: "no whole version yet", tone: "caution" };
  if (d.answer === "YES") return { words: "yes", tone: "ink" };
  return {
    words: `${d.answer === "PERHAPS" ? "perhaps" : "no"}: ${d.lacks.join(", ")}`,
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
        {d.work === undefined ? "none" : moment(d.work, zone, now)}
      </Table.Cell>
      <Table.Cell>{d.coverage.copies}</Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.coverage.disks}
        {d.coverage.perhaps > 0 && ` or ${d.coverage.disks + d.coverage.perhaps}`}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.coverage.verified === undefined
          ? "not there"
          : `checked ${moment(d.coverage.verified, zone, now)}`}
      </Table.Cell>
      <Table.Cell color={rule.tone}>{rule.words}</Table.Cell>
      <Table.Cell color={lost ? "loss" : "muted"} whiteSpace="nowrap">
        {d.work === undefined ? "unknown" : siteLoss(d.siteLost)}
      </Table.Cell>
    </Table.Row>
  );
}

function title(name: string, { coverage }: ElsewhereView) {
  if (coverage.documents.every((d) => d.work === undefined)) return `${name} has no version yet`;
  if (coverage.siteLost === undefined)
    return coverage.elsewhere === 0
      ? `If this site were lost now, ${name} would be lost whole`
      : `If this site were lost now, part of ${name} would be lost whole`;
  return coverage.siteLost < 1
    ? `If this site were lost now, ${name} would lose nothing`
    : `If this site were lost now, ${name} would lose up to ${age(coverage.siteLost * 1000)} of work`;
}

function Page({ project, name }: { project: string; name: string }) {
  const elsewhere = useElsewhere(project);
  const session = useSession();
  const now = useNow(10_000);
  const zone = session.data?.zone ?? "UTC";
  const { go } = useGo();
  const [paper, setPaper] = useState(false);
  const view = elsewhere.data;
  if (elsewhere.isPending) return <Loading what="Looking where the copies lie" />;
  if (!view) return <Failure error={elsewhere.error} />;
  const { coverage, stores } = view;
  if (paper)
    return <RecoverySheet name={name} view={view} zone={zone} onBack={() => setPaper(false)} />;
  return (
    <Box>
      <PageHead
        title={title(name, view)}
        under={`${coverage.met} of ${count(coverage.documents.length, "document")} with all the copies that are wanted, ${coverage.elsewhere} elsewhere`}
      >
        <Side needs="ADMINISTER" over="everything" onClick={() => go("/bring-back")}>
          Bring back from a store
        </Side>
        {stores.length > 0 && <Side onClick={() => setPaper(true)}>Recovery sheet</Side>}
        <AddStore project={project} />
      </PageHead>
      <Box px="4" pb="3">
        {stores.length === 0 ? (
          <Text fontSize="13px" py="2">
            Nothing is sent elsewhere. A bucket of any S3 service will do, or a folder of another
            machine that is mounted here; each copy is checked before it counts: by the checksum the
            store made, or read back.
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
          aria-label="Where the newest versions lie"
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
                "Document",
                "Newest whole version",
                "Copies",
                "Disks",
                "Elsewhere",
                "As wanted",
                "Lost with the site",
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
  if (overview.isPending) return <Loading what="Opening" />;
  if (!inHand)
    return (
      <Empty title="No project yet">
        <Text mb="3">A project that was lost with its machine can come back from a store.</Text>
        <Main needs="ADMINISTER" over="everything" onClick={() => go("/bring-back")}>
          Bring back from a store
        </Main>
      </Empty>
    );
  return <Page key={inHand.project.id} project={inHand.project.id} name={inHand.project.name} />;
}
