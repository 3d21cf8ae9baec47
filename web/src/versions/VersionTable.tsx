import { Box, Table, Text, VisuallyHidden } from "@chakra-ui/react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type Ref, useEffect, useRef } from "react";
import type { StateView } from "../api/schema";
import { Health } from "../shared/parts";
import { exactly, moment } from "../shared/dates";
import { KIND, SAVED_FROM, age, change, count, size, sizeChange } from "../shared/words";
import { phrase } from "../words/phrase";

const ROLE: Record<string, string> = {
  SETUP: phrase("versions.setUp"),
  RESTART: phrase("versions.restart"),
  RESULT: phrase("versions.result"),
};

/** "run 2, step 120: restart, result". */
export function stepWords(step: NonNullable<StateView["step"]>): string {
  const held = step.members.filter((m) => m.held && m.role !== "SETUP");
  return phrase("versions.runStep", {
    run: step.run,
    step: step.step,
    held: held.map((m) => ROLE[m.role] ?? m.role).join(", "),
  });
}

function foundAs(state: StateView): string {
  if (state.step) return stepWords(state.step);
  const kinds = state.copies.map((c) => {
    const how = SAVED_FROM[c.kind];
    return how ? `${KIND[c.originKind] ?? ""}, ${how}` : (KIND[c.kind] ?? c.kind);
  });
  const named = [...new Set(kinds)];
  const told = new Set(
    state.copies.filter((c) => SAVED_FROM[c.kind]).map((c) => KIND[c.originKind]),
  );
  return named.filter((k) => !told.has(k)).join(", ");
}

export function whenWords(workTo: string, crash: number | undefined, now: number): string {
  const at = new Date(workTo).getTime();
  if (crash === undefined) return phrase("versions.ago", { age: age(now - at) });
  if (Math.abs(at - crash) < 5000) return phrase("versions.atTheCrash");
  return at < crash
    ? phrase("versions.beforeTheCrash", { age: age(crash - at) })
    : phrase("versions.afterTheCrash", { age: age(at - crash) });
}

const COLUMNS = [
  [phrase("common.from"), "120px", "start"],
  [phrase("versions.howLongAgo"), "172px", "start"],
  [phrase("versions.foundAs"), "150px", "start"],
  [phrase("common.parts"), "88px", "end"],
  [phrase("versions.size"), "106px", "end"],
  [phrase("versions.health"), "112px", "start"],
  [phrase("versions.copies"), "70px", "start"],
  [phrase("versions.keptBecause"), "auto", "start"],
] as const;

/** An hour, or two between which it was. */
function whenDone(s: StateView, zone: string, now: number): string {
  const apart = new Date(s.workTo).getTime() - new Date(s.workFrom).getTime();
  const to = moment(s.workTo, zone, now);
  return apart > 60_000 && !s.step ? `${moment(s.workFrom, zone, now)}–${to.slice(-5)}` : to;
}

interface Marked {
  a: string;
  b: string;
  chosen: string;
  crash: number | undefined;
  now: number;
  zone: string;
  onChoose: (state: string) => void;
}

const letterOf = (state: string | undefined, { a, b }: Marked) =>
  state === undefined ? "" : state === b ? "B" : state === a ? "A" : "";

/** One state; a blank line where it is still to come. Drawn again only if something of it is new. */
const StateRow = memo(function StateRow({
  ref,
  ...props
}: {
  index: number;
  ref: Ref<HTMLTableRowElement>;
  state: StateView | undefined;
  letter: "A" | "B" | "";
  chosen: boolean;
  crash: number | undefined;
  now: number;
  zone: string;
}) {
  const { state: s, letter, chosen } = props;
  if (!s) {
    return (
      <Table.Row ref={ref} data-index={props.index} h="32px">
        <Table.Cell colSpan={COLUMNS.length + 1} color="muted">
          …
        </Table.Cell>
      </Table.Row>
    );
  }
  const why = [
    ...s.marks.map((m) => m.mark).filter((m) => !s.keptBecause.includes(m)),
    s.keptBecause,
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <Table.Row
      ref={ref}
      data-index={props.index}
      aria-rowindex={props.index + 2}
      data-state={s.id}
      bg={letter === "B" ? "slateWash" : letter === "A" ? "clayWash" : "transparent"}
      cursor="pointer"
      aria-selected={chosen}
      boxShadow={chosen ? "inset 3px 0 0 var(--chakra-colors-ink)" : undefined}
    >
      <Table.Cell fontWeight="700" color={letter === "A" ? "clay" : "slate"}>
        {letter}
      </Table.Cell>
      <Table.Cell fontFamily="mono" fontWeight="700" whiteSpace="nowrap">
        <Box as="button" title={exactly(s.workTo, props.zone)}>
          {whenDone(s, props.zone, props.now)}
        </Box>
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap" color={s.orderKnown ? "ink" : "caution"}>
        {s.orderKnown
          ? whenWords(s.workTo, props.crash, props.now)
          : phrase("versions.orderUnknown")}
      </Table.Cell>
      <Table.Cell color="muted">{foundAs(s)}</Table.Cell>
      <Table.Cell textAlign="end" whiteSpace="nowrap" fontVariantNumeric="tabular-nums">
        {s.parts ?? "·"}
        {s.partsTotal !== undefined && s.partsTotal !== s.parts
          ? ` ${phrase("versions.of", { partsTotal: s.partsTotal })}`
          : ""}{" "}
        <Text as="span" color="muted">
          {s.partsChange ? change(s.partsChange) : ""}
        </Text>
      </Table.Cell>
      <Table.Cell textAlign="end" whiteSpace="nowrap" fontVariantNumeric="tabular-nums">
        {size(s.size)}{" "}
        <Text as="span" color="muted">
          {s.sizeChange === undefined || Math.abs(s.sizeChange) < s.size / 50
            ? ""
            : sizeChange(s.sizeChange).replace(/ .?B$/, "")}
        </Text>
      </Table.Cell>
      <Table.Cell>
        {s.step && s.step.lacks.length > 0 ? (
          <Text as="span" color="caution" title={s.step.lacks.join("; ")}>
            {phrase("versions.incomplete")}
          </Text>
        ) : (
          <Health verdict={s.verdict} reason={s.findings[0]?.words} />
        )}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {s.step
          ? phrase("versions.ofFiles", {
              present: s.step.members.filter((m) => m.held).length,
              all: s.step.members.length,
            })
          : count(s.copies.length, "folder")}
      </Table.Cell>
      <Table.Cell color="muted" truncate title={why}>
        {why}
      </Table.Cell>
    </Table.Row>
  );
});

/** The wake's twin: every state with its numbers, newest work first. */
export function VersionTable(
  props: Marked & {
    states: (StateView | undefined)[];
    onMissing: (index: number) => void;
  },
) {
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- used here only, handed to no one
  const virtual = useVirtualizer({
    count: props.states.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 32,
    overscan: 12,
  });
  const { states, chosen, onMissing } = props;
  const at = states.findIndex((s) => s?.id === chosen);
  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at, { align: "auto" });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the virtual list is the same object
  }, [chosen, at]);
  const rows = virtual.getVirtualItems();
  const above = rows[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (rows.at(-1)?.end ?? 0);
  const missing = rows.find((row) => states[row.index] === undefined)?.index;
  useEffect(() => {
    if (missing !== undefined) onMissing(missing);
  }, [missing, onMissing]);
  return (
    <Box
      ref={scroller}
      overflow="auto"
      h="100%"
      tabIndex={0}
      role="region"
      aria-label={phrase("versions.versionsOfThisDocument")}
    >
      <Table.Root
        size="sm"
        aria-rowcount={states.length + 1}
        stickyHeader
        tableLayout="fixed"
        fontSize="13px"
        css={{ "& td, & th": { borderColor: "hairline", py: "5px" } }}
      >
        <Table.Header>
          <Table.Row bg="ground">
            <Table.ColumnHeader color="muted" w="30px">
              <VisuallyHidden>{phrase("versions.marker")}</VisuallyHidden>
            </Table.ColumnHeader>
            {COLUMNS.map(([h, width, align], i) => (
              <Table.ColumnHeader
                key={h + String(i)}
                w={width}
                color="muted"
                fontWeight="400"
                textAlign={align}
              >
                {h}
              </Table.ColumnHeader>
            ))}
          </Table.Row>
        </Table.Header>
        <Table.Body
          onClick={(e) => {
            const row = (e.target as Element).closest<HTMLElement>("[data-state]");
            if (row?.dataset["state"]) props.onChoose(row.dataset["state"]);
          }}
        >
          {above > 0 && <Table.Row aria-hidden h={`${above}px`} />}
          {rows.map((row) => (
            <StateRow
              key={row.key}
              index={row.index}
              ref={virtual.measureElement}
              state={states[row.index]}
              letter={letterOf(states[row.index]?.id, props)}
              chosen={states[row.index]?.id === chosen}
              crash={props.crash}
              now={props.now}
              zone={props.zone}
            />
          ))}
          {below > 0 && <Table.Row aria-hidden h={`${below}px`} />}
        </Table.Body>
      </Table.Root>
    </Box>
  );
}
