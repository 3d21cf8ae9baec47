import { Flex, Grid, NativeSelect, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { ComparisonView, StateView } from "../api/schema";
import { useComparing, useComparison, useStepsAhead, useDropped } from "../api/comparing";
import { Comparing } from "./Comparing";
import { Tray } from "../restore/Tray";
import { useTray } from "../restore/tray";
import type { OnTake } from "./PartList";
import { useVersionPages, useVersion } from "../api/versions";
import { useRecover, useSession, useVersions } from "../api/queries";
import { useGo, useMarkers, useWhere } from "../app/where";
import { RestoreDialog } from "../restore/RestoreDialog";
import { useKeys } from "../shared/keys";
import {
  Empty,
  Failure,
  Key,
  Loading,
  Main,
  PageHead,
  PathText,
  Quiet,
  Side,
} from "../shared/parts";
import { moment } from "../shared/dates";
import { size, VERDICT } from "../shared/words";
import { Number } from "../shared/fields";
import { useNow } from "../shared/useNow";
import { useSettled } from "../shared/useSettled";
import { ByteMap } from "./ByteMap";
import { Seen } from "./Seen";
import { Paper } from "./Paper";
import { PartBrowser } from "./PartBrowser";
import { FromElsewhere, Kinds, Take, Unread } from "./Take";
import { phrase } from "../words/phrase";

function Picker(props: {
  letter: "A" | "B";
  states: StateView[];
  value: string;
  zone: string;
  now: number;
  onPick: (state: string) => void;
}) {
  return (
    <Flex align="center" gap="2">
      <Text fontWeight="700" color={props.letter === "A" ? "clay" : "slate"}>
        {props.letter}
      </Text>
      <NativeSelect.Root size="sm" w="225px">
        <NativeSelect.Field
          aria-label={phrase("compare.version", { letter: props.letter })}
          borderColor="hairline"
          value={props.value}
          onChange={(e) => props.onPick(e.target.value)}
        >
          {props.states.map((s) => (
            <option key={s.id} value={s.id}>
              {moment(s.workTo, props.zone, props.now)}
              {s.step
                ? ` ${phrase("compare.runStep", { run: s.step.run, step: s.step.step })}`
                : ` · ${size(s.size)}`}{" "}
              · {VERDICT[s.verdict]}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
    </Flex>
  );
}

const small = (n: number) => String(parseFloat(n.toPrecision(2)));

/** Up to which length parts count as the same. */
function Within(props: {
  comparison: ComparisonView;
  chosen: number | undefined;
  onChoose: (length: number | undefined) => void;
}) {
  const { comparison, chosen } = props;
  const scale = comparison.shows === "MODEL" ? 1000 : 1;
  const unit = comparison.shows === "MODEL" ? "mm" : phrase("compare.units");
  if (chosen === undefined) {
    return (
      <Flex gap="1.5" align="center" px="3" pt="1.5" fontSize="12px" color="muted" minH="34px">
        <Text>
          {phrase("compare.upToApartCountsAsThe", {
            small: small(comparison.tolerance * scale),
            unit,
          })}
        </Text>
        <Quiet onClick={() => props.onChoose(0.1 / scale)}>{phrase("compare.sayHowMuch")}</Quiet>
      </Flex>
    );
  }
  return (
    <Flex gap="1.5" align="center" px="3" pt="1.5" fontSize="12px" color="muted" minH="34px">
      {phrase("compare.theSameUpToWhatThe", {
        number: (
          <Number
            label={phrase("compare.lengthUpToWhichPartsCount")}
            value={chosen * scale}
            min={0}
            max={1e6}
            step={0.1}
            onChange={(v) => props.onChoose(v / scale)}
          />
        ),
        unit,
        b: (text) => <Quiet onClick={() => props.onChoose(undefined)}>{text}</Quiet>,
      })}
    </Flex>
  );
}

export function Compare() {
  const { inHand, overview } = useWhere();
  const document = inHand?.document.id ?? "";
  const trail = useVersions(document);
  const desk = useRecover(document);
  const session = useSession();
  const markers = useMarkers();
  const now = useNow(30_000);
  const { go } = useGo();
  const [part, setPart] = useState<string | undefined>(markers.part);
  const [paper, setPaper] = useState(false);
  const [tolerance, setTolerance] = useState<number>();
  const [over, setOver] = useState(false);
  const [restoring, setRestoring] = useState(false);
  const all = useVersionPages(document, trail.data);
  const states = all.list;
  const b = markers.b || desk.data?.recommended || states[0]?.id || "";
  const a = markers.a || desk.data?.against || states[1]?.id || "";
  const chosen = useVersion(document, b, all);
  const from = useVersion(document, a, all);
  const here = [
    ...new Map([from, chosen, ...states].flatMap((s) => (s ? [[s.id, s] as const] : []))).values(),
  ].sort((x, y) => y.workTo.localeCompare(x.workTo));
  const settled = useSettled(tolerance);
  const comparison = useComparison(document, a, b, settled);
  const dropped = useDropped(document);
  const tray = useTray(document);
  const comparing = useComparing(document, a, b, settled);
  const waits =
    a !== b &&
    !dropped.data &&
    (comparison.isPending || (comparison.isPlaceholderData && comparing.share !== undefined));
  const shown = dropped.data?.view ?? (waits ? undefined : comparison.data);
  const known = useVersion(document, dropped.data?.known ?? "", all);
  const zone = session.data?.zone ?? "UTC";
  const step = (by: number) => {
    const to = states.findIndex((s) => s?.id === b) + by;
    const next = states[to];
    if (next) markers.set({ b: next.id });
    all.want(to + 20 * by);
  };
  const at = states.findIndex((s) => s?.id === b);
  useStepsAhead(document, a, at < 0 ? [] : [states[at + 1], states[at - 1]], settled);
  useKeys({
    "[": () => step(1),
    "]": () => step(-1),
    r: () => setRestoring(true),
  });

  if (overview.isPending || (document !== "" && (trail.isPending || desk.isPending)))
    return <Loading what={phrase("compare.readingBothVersions")} />;
  if (!inHand || states.length === 0) {
    return (
      <Empty title={phrase("compare.nothingToCompareYet")}>
        <Text mb="3">{phrase("compare.twoVersionsOfADocumentAre")}</Text>
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("compare.sayWhereYourWorkLies")}
        </Main>
      </Empty>
    );
  }
  const told = (state: StateView | undefined) =>
    state
      ? `${moment(state.workTo, zone, now)}, ${size(state.size)}, ${VERDICT[state.verdict]}`
      : "";
  if (paper && shown) {
    return (
      <Paper
        comparison={shown}
        path={trail.data?.path ?? ""}
        sides={{ a: told(from), b: dropped.data?.name ?? told(chosen) }}
        onBack={() => setPaper(false)}
      />
    );
  }
  const takePart: OnTake = (side, of) => {
    const state = side === "a" ? from : chosen;
    const id = of[side];
    if (state && id !== undefined)
      tray.add({ state: state.id, part: id, label: of.label, work: state.workTo });
  };
  const take = (file: File | undefined) => {
    setOver(false);
    if (file && a !== "") dropped.mutate({ a, file });
  };
  return (
    <Flex
      direction="column"
      h={{ base: "auto", lg: "100%" }}
      outline={over ? "2px dashed" : undefined}
      outlineColor="fir"
      outlineOffset="-4px"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        take(e.dataTransfer.files[0]);
      }}
    >
      <PageHead
        title={
          shown?.sentence ??
          (a === b ? phrase("compare.chooseTwoDifferentVersions") : phrase("compare.comparing"))
        }
        under={
          <>
            <PathText path={trail.data?.path ?? ""} />
            {shown?.setups && <Text as="span"> {shown.setups}</Text>}
          </>
        }
      >
        <Main needs="RESTORE" onClick={() => setRestoring(true)}>
          {phrase("compare.restoreB")} <Key>r</Key>
        </Main>
      </PageHead>
      <Failure error={dropped.error ?? comparison.error} />
      {dropped.data && (
        <Flex px="4" py="1" gap="2" fontSize="13px" align="center" bg="slateWash" role="status">
          <Text flex="1">
            {phrase("compare.bIsAsYouDroppedIt", {
              name: dropped.data.name,
              known: known
                ? phrase("compare.itIsTheVersionOf", { told: told(known) })
                : phrase("compare.itIsNoneOfTheVersions"),
            })}
          </Text>
          {known && (
            <Quiet
              onClick={() => {
                dropped.reset();
                markers.set({ b: known.id });
              }}
            >
              {phrase("compare.useThatVersionAsB")}
            </Quiet>
          )}
          <Quiet onClick={() => dropped.reset()}>{phrase("compare.backToTheVersions")}</Quiet>
        </Flex>
      )}
      <Flex
        px="4"
        py="1.5"
        gap="2"
        align="center"
        fontSize="13px"
        borderBottom="1px solid"
        borderColor="hairline"
        minH="38px"
      >
        <Picker
          letter="A"
          states={here}
          value={a}
          zone={zone}
          now={now}
          onPick={(s) => markers.set({ a: s })}
        />
        <Side size="xs" onClick={() => markers.set({ a: b, b: a })}>
          {phrase("compare.swap")}
        </Side>
        <Picker
          letter="B"
          states={here}
          value={b}
          zone={zone}
          now={now}
          onPick={(s) => {
            dropped.reset();
            markers.set({ b: s });
          }}
        />
        <Flex ml="auto" gap="3" align="center">
          {comparison.isFetching && <Text color="muted">{phrase("compare.comparing2")}</Text>}
          {dropped.isPending && <Text color="muted">{phrase("compare.readingTheFile")}</Text>}
          <FromElsewhere busy={dropped.isPending} onFile={take} />
          {shown && !dropped.data && a !== b && (
            <Take
              document={document}
              a={a}
              b={b}
              tolerance={settled}
              onPrint={() => setPaper(true)}
            />
          )}
          <Kinds />
        </Flex>
      </Flex>
      {shown && <Unread comparison={shown} />}
      {shown?.bytes && <ByteMap bytes={shown.bytes} />}
      {shown && !shown.bytes && (
        <Grid
          templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 400px" }}
          flex="1"
          minH="0"
          overflow={{ base: "auto", lg: "visible" }}
          gridAutoRows={{ base: "minmax(420px, auto)", lg: "auto" }}
        >
          <Seen key={document} comparison={shown} chosen={part} onChoose={setPart} />
          <Flex direction="column" borderLeft="1px solid" borderColor="hairline" minH="0">
            {shown.tolerance > 0 && (
              <Within comparison={shown} chosen={tolerance} onChoose={setTolerance} />
            )}
            <PartBrowser
              comparison={shown}
              chosen={part}
              onChoose={setPart}
              onTake={shown.takes && !dropped.data ? takePart : undefined}
            />
            <Tray document={document} zone={zone} now={now} />
          </Flex>
        </Grid>
      )}
      {waits && (
        <Comparing
          share={comparing.share}
          running={comparison.isFetching}
          onStop={comparing.stop}
          onAgain={() => void comparison.refetch()}
        />
      )}
      {restoring && chosen && (
        <RestoreDialog
          document={document}
          state={chosen}
          zone={zone}
          now={now}
          onClose={() => setRestoring(false)}
        />
      )}
    </Flex>
  );
}
