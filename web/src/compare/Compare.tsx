import { Box, Flex, Grid, NativeSelect, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { StateView } from "../api/schema";
import { useComparison, useDesk, useSession, useTrail } from "../api/queries";
import { useGo, useMarkers, useWhere } from "../app/where";
import { RestoreDialog } from "../restore/RestoreDialog";
import { useKeys } from "../shared/keys";
import { Empty, Failure, Key, Loading, Main, PageHead, PathText, Side } from "../shared/parts";
import { moment, size, VERDICT } from "../shared/words";
import { useNow } from "../shared/useNow";
import { ByteMap } from "./ByteMap";
import { Overlay } from "./Overlay";
import { PartList } from "./PartList";

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
      <NativeSelect.Root size="sm" w="250px">
        <NativeSelect.Field
          aria-label={`State ${props.letter}`}
          borderColor="hairline"
          value={props.value}
          onChange={(e) => props.onPick(e.target.value)}
        >
          {props.states.map((s) => (
            <option key={s.id} value={s.id}>
              {moment(s.workTo, props.zone, props.now)}
              {s.step ? ` · run ${s.step.run}, step ${s.step.step}` : ` · ${size(s.size)}`} ·{" "}
              {VERDICT[s.verdict]}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
    </Flex>
  );
}

export function Compare() {
  const { inHand, overview } = useWhere();
  const document = inHand?.document.id ?? "";
  const trail = useTrail(document);
  const desk = useDesk(document);
  const session = useSession();
  const markers = useMarkers();
  const now = useNow(30_000);
  const { go } = useGo();
  const [part, setPart] = useState<string>();
  const [all, setAll] = useState(false);
  const [restoring, setRestoring] = useState(false);
  const states = trail.data?.states ?? [];
  const b = markers.b || desk.data?.recommended || states[0]?.id || "";
  const a = markers.a || desk.data?.against || states[1]?.id || "";
  const chosen = states.find((s) => s.id === b);
  const comparison = useComparison(document, a, b);
  const zone = session.data?.zone ?? "UTC";
  const step = (by: number) => {
    const next = states[states.findIndex((s) => s.id === b) + by];
    if (next) markers.set({ b: next.id });
  };
  useKeys({
    "[": () => step(1),
    "]": () => step(-1),
    r: () => setRestoring(true),
  });

  if (overview.isPending || (document !== "" && (trail.isPending || desk.isPending)))
    return <Loading what="Reading both states" />;
  if (!inHand || states.length === 0) {
    return (
      <Empty title="Nothing to compare yet">
        <Text mb="3">Two states of a document are needed. Copies will make them.</Text>
        <Main onClick={() => go("/start")}>Say where your work lies</Main>
      </Empty>
    );
  }
  return (
    <Flex direction="column" h="100%">
      <PageHead
        title={comparison.data?.sentence ?? (a === b ? "Choose two different states" : "Comparing")}
        under={<PathText path={trail.data?.path ?? ""} />}
      >
        <Picker
          letter="A"
          states={states}
          value={a}
          zone={zone}
          now={now}
          onPick={(s) => markers.set({ a: s })}
        />
        <Side size="xs" onClick={() => markers.set({ a: b, b: a })}>
          swap
        </Side>
        <Picker
          letter="B"
          states={states}
          value={b}
          zone={zone}
          now={now}
          onPick={(s) => markers.set({ b: s })}
        />
        <Main onClick={() => setRestoring(true)}>
          Restore B… <Key>r</Key>
        </Main>
      </PageHead>
      <Failure error={comparison.error} />
      {comparison.data?.bytes && <ByteMap bytes={comparison.data.bytes} />}
      {comparison.data && !comparison.data.bytes && (
        <Grid templateColumns={comparison.data.drawn ? "1fr 380px" : "1fr"} flex="1" minH="0">
          {comparison.data.drawn && <Overlay comparison={comparison.data} chosen={part} />}
          <Flex
            direction="column"
            borderLeft={comparison.data.drawn ? "1px solid" : undefined}
            borderColor="hairline"
            minH="0"
            maxW={comparison.data.drawn ? undefined : "760px"}
          >
            <Flex
              px="3"
              py="1.5"
              align="center"
              gap="2"
              borderBottom="1px solid"
              borderColor="hairline"
            >
              <Text fontWeight="650" fontSize="13px" flex="1">
                {all ? `All ${comparison.data.changes.length} parts` : "What differs"}
              </Text>
              <Side size="xs" onClick={() => setAll(!all)}>
                {all ? "only what differs" : "all parts"}
              </Side>
            </Flex>
            <Box flex="1" minH="0" overflow="auto" tabIndex={0} role="region" aria-label="Parts">
              <PartList comparison={comparison.data} chosen={part} onChoose={setPart} all={all} />
            </Box>
          </Flex>
        </Grid>
      )}
      {comparison.isPending && a !== b && <Loading what="Comparing part by part" />}
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
