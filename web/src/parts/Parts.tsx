import { Box, Flex, Grid, Input, NativeSelect, Text } from "@chakra-ui/react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { useSession } from "../api/queries";
import { useParts } from "../api/parts";
import type { PartLine, PartsView } from "../api/schema";
import { useGo, useWhere } from "../app/where";
import { Questions } from "../loss/Questions";
import { useKeys } from "../shared/keys";
import {
  Empty,
  Failure,
  Figure,
  Key,
  Loading,
  Main,
  PageHead,
  PathText,
  Side,
} from "../shared/parts";
import { useNow } from "../shared/useNow";
import { useSettled } from "../shared/useSettled";
import { moment } from "../shared/dates";
import { count } from "../shared/words";
import { bars, momentOf, sections, SINCE, type Since, ticks } from "./lives";
import { OnePart } from "./OnePart";
import { Tray } from "../restore/Tray";
import { Spot } from "./Spot";
import { EveryProject } from "./EveryProject";
import { phrase } from "../words/phrase";

const STRIP = 380;

/** When a part was there; a mark for each state in which something became of it. */
function Strip({ part, view }: { part: PartLine; view: PartsView }) {
  const all = view.states.length;
  return (
    <svg width={STRIP} height="16" aria-hidden>
      <line x1="0" x2={STRIP} y1="8" y2="8" stroke="var(--chakra-colors-hairline)" />
      {bars(part, all, STRIP).map((b) => (
        <rect
          key={b.x}
          x={b.x}
          y="4"
          width={b.width}
          height="8"
          fill={part.there ? "var(--chakra-colors-muted)" : "var(--chakra-colors-loss)"}
          opacity="0.55"
        />
      ))}
      {ticks(part, all, STRIP).map((x) => (
        <rect key={x} x={x - 0.75} y="1" width="1.5" height="14" fill="var(--chakra-colors-ink)" />
      ))}
    </svg>
  );
}

function Axis({ view, zone, now }: { view: PartsView; zone: string; now: number }) {
  const first = view.states[0];
  const last = view.states.at(-1);
  const gaps = view.states.filter((s) => s.gap).length;
  return (
    <Flex w={`${STRIP}px`} justify="space-between" fontSize="11.5px" color="muted">
      <Text>{first ? moment(first.work, zone, now) : ""}</Text>
      {gaps > 0 && <Text>{phrase("parts.cannotBeRead", { states: count(gaps, "state") })}</Text>}
      <Text>{last ? moment(last.work, zone, now) : ""}</Text>
    </Flex>
  );
}

type Line = { title: string; many: number } | { part: PartLine };

function Row(props: { part: PartLine; view: PartsView; chosen: boolean; onChoose: () => void }) {
  const { part, chosen } = props;
  return (
    <Flex
      role="option"
      id={`part-${part.id}`}
      aria-selected={chosen}
      align="center"
      gap="3"
      px="3"
      h="28px"
      cursor="pointer"
      bg={chosen ? "raised" : undefined}
      boxShadow={chosen ? "inset 3px 0 0 var(--chakra-colors-ink)" : undefined}
      onClick={props.onChoose}
    >
      <Text flex="1" minW="0" truncate color={part.there ? "ink" : "loss"} title={part.label}>
        {part.label}{" "}
        <Text as="span" color="muted" fontSize="12px">
          {[part.kind === "mesh" ? undefined : part.kind, part.above].filter(Boolean).join(" · ")}
        </Text>
      </Text>
      <Strip part={part} view={props.view} />
    </Flex>
  );
}

/** All parts under what became of them; arrow keys choose. */
function Lives(props: {
  view: PartsView;
  lines: Line[];
  chosen: number | undefined;
  onChoose: (part: number) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- used here only, handed to no one
  const virtual = useVirtualizer({
    count: props.lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 28,
    overscan: 20,
  });
  const { lines, chosen } = props;
  const at = lines.findIndex((l) => "part" in l && l.part.id === chosen);
  useEffect(() => {
    if (at >= 0) virtual.scrollToIndex(at, { align: "auto" });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the virtual list is the same object
  }, [at]);
  const move = (by: number) => {
    for (let i = at + by; i >= 0 && i < lines.length; i += by) {
      const line = lines[i];
      if (line && "part" in line) {
        props.onChoose(line.part.id);
        return;
      }
    }
  };
  return (
    <Box
      ref={scroller}
      flex="1"
      minH="0"
      overflow="auto"
      tabIndex={0}
      role="listbox"
      aria-label={phrase("parts.partsByWhatBecameOfThem")}
      aria-activedescendant={chosen === undefined ? undefined : `part-${chosen}`}
      onKeyDown={(e) => {
        if (e.key === "ArrowDown" || e.key === "ArrowUp") {
          e.preventDefault();
          move(e.key === "ArrowDown" ? 1 : -1);
        }
      }}
    >
      <Box h={`${virtual.getTotalSize()}px`} position="relative">
        {virtual.getVirtualItems().map((row) => {
          const line = lines[row.index];
          return (
            <Box
              key={row.key}
              position="absolute"
              top="0"
              w="100%"
              transform={`translateY(${row.start}px)`}
            >
              {line && "part" in line ? (
                <Row
                  part={line.part}
                  view={props.view}
                  chosen={line.part.id === chosen}
                  onChoose={() => props.onChoose(line.part.id)}
                />
              ) : (
                <Text px="3" pt="1.5" h="28px" fontSize="12px" color="muted" role="presentation">
                  {line?.title} · {line?.many}
                </Text>
              )}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}

function sentence(view: PartsView, since: Since): string {
  const largest = view.parts.find((p) => p.id === view.gone[0]);
  if (!largest) return phrase("parts.nothingHasGone", { since: SINCE[since] });
  if (view.gone.length === 1)
    return phrase("parts.hasGone", { label: largest.label, since: SINCE[since] });
  return phrase("parts.partsHaveGoneTheLargestIs", {
    gone: view.gone.length,
    since: SINCE[since],
    label: largest.label,
  });
}

/** When parts came, changed and went; what has gone, without knowing its name. */
export function Parts() {
  const { inHand, overview } = useWhere();
  const document = inHand?.document.id ?? "";
  const session = useSession();
  const now = useNow(60_000);
  const { go } = useGo();
  const [since, setSince] = useState<Since>("week");
  const [search, setSearch] = useSearchParams();
  const [words, setWords] = useState("");
  const find = useRef<HTMLInputElement>(null);
  const zone = session.data?.zone ?? "UTC";
  const parts = useParts(document, momentOf(since, now));
  const settled = useSettled(words);
  const view = parts.data;
  const shown = useMemo(() => (view ? sections(view, words) : []), [view, words]);
  const lines = useMemo(
    () =>
      shown.flatMap((s): Line[] => [
        {
          title:
            s.title === phrase("parts.goneSince")
              ? phrase("parts.gone", { since: SINCE[since] })
              : s.title,
          many: s.parts.length,
        },
        ...s.parts.map((part) => ({ part })),
      ]),
    [shown, since],
  );
  const asked = search.get("part");
  const chosen = asked === null ? shown[0]?.parts[0]?.id : Number(asked);
  const choose = (part: number) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        next.set("part", String(part));
        return next;
      },
      { replace: true },
    );
  const [pointing, setPointing] = useState(false);
  const ground = pointing ? view?.ground : undefined;
  useKeys({
    "/": () => find.current?.focus(),
    s: () => setPointing(view?.ground !== undefined && !pointing),
  });

  if (overview.isPending || (document !== "" && parts.isPending))
    return <Loading what={phrase("parts.followingEveryPartThroughAllVersions")} />;
  if (!inHand) {
    return (
      <Empty title={phrase("common.noDocumentYet")}>
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("parts.sayWhereYourWorkLies")}
        </Main>
      </Empty>
    );
  }
  if (!view) return <Failure error={parts.error} />;
  if (view.parts.length === 0) {
    return (
      <Empty title={phrase("parts.nothingInsideThisDocumentIsKnown")}>
        <Text mb="3">{phrase("parts.itsVersionsAreOfAKind")}</Text>
        <Main onClick={() => go(`/compare/${document}`)}>{phrase("parts.compareTwoVersions")}</Main>
      </Empty>
    );
  }
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={sentence(view, since)}
        under={
          <>
            <PathText path={inHand.document.path} />
            {!view.newestWhole && (
              <Text as="span" color="caution">
                {" "}
                {phrase("parts.notAllOfTheNewestVersion")}
              </Text>
            )}
          </>
        }
      >
        <Figure
          value={view.parts.filter((p) => p.there).length}
          label={phrase("parts.partsThereNow")}
        />
        <Figure value={view.states.length} label={phrase("parts.versionsLookedThrough")} />
      </PageHead>
      <Questions document={document} zone={zone} now={now} />
      <Grid
        templateColumns={{ base: "minmax(0, 1fr)", lg: "1fr 380px" }}
        flex="1"
        minH="0"
        overflow={{ base: "auto", lg: "visible" }}
        gridAutoRows={{ base: "minmax(420px, auto)", lg: "auto" }}
      >
        <Flex direction="column" minH="0" minW="0">
          <Flex px="3" py="1.5" gap="3" align="center">
            <Input
              ref={find}
              size="xs"
              w="210px"
              borderColor="hairline"
              placeholder={phrase("parts.findAPartByName")}
              aria-label={phrase("parts.findAPartByName2")}
              value={words}
              onChange={(e) => setWords(e.target.value)}
              onKeyDown={(e) => e.key === "Escape" && find.current?.blur()}
            />
            <NativeSelect.Root size="xs" w="170px">
              <NativeSelect.Field
                aria-label={phrase("parts.whatHasGoneSinceWhen")}
                borderColor="hairline"
                value={since}
                onChange={(e) => setSince(e.target.value as Since)}
              >
                {(Object.keys(SINCE) as Since[]).map((s) => (
                  <option key={s} value={s}>
                    {SINCE[s]}
                  </option>
                ))}
              </NativeSelect.Field>
              <NativeSelect.Indicator />
            </NativeSelect.Root>
            {view.ground && (
              <Side aria-pressed={pointing} onClick={() => setPointing(!pointing)}>
                {pointing ? phrase("parts.backToTheList") : phrase("parts.whatUsedToBeHere")}{" "}
                <Key>s</Key>
              </Side>
            )}
            <Box ml="auto">{!ground && <Axis view={view} zone={zone} now={now} />}</Box>
          </Flex>
          {ground ? (
            <Spot
              key={ground.content}
              document={document}
              ground={ground}
              chosen={chosen}
              zone={zone}
              now={now}
              onChoose={choose}
            />
          ) : (
            <Lives view={view} lines={lines} chosen={chosen} onChoose={choose} />
          )}
          {!ground && lines.length === 0 && (
            <Text px="3" py="2" fontSize="13px" color="muted">
              {phrase("parts.noPartOfThisDocumentEver")}
            </Text>
          )}
          {!ground && settled.trim().length > 1 && (
            <EveryProject words={settled} zone={zone} now={now} />
          )}
        </Flex>
        <Flex direction="column" borderLeft="1px solid" borderColor="hairline" minH="0">
          <Box flex="1" minH="0" overflow="auto">
            {chosen !== undefined && (
              <OnePart key={chosen} document={document} part={chosen} zone={zone} now={now} />
            )}
          </Box>
          <Tray document={document} zone={zone} now={now} />
        </Flex>
      </Grid>
    </Flex>
  );
}
