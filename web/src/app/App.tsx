import { Box, Flex, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { type ComponentType, lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Navigate, Route, Routes } from "react-router";
import { Problem } from "../api/client";
import { listen } from "../api/events";
import { useSession } from "../api/queries";
import { Overview } from "../overview/Overview";
import { useMode } from "../theme/mode";
import { useKeys } from "../shared/keys";
import { Empty, Loading } from "../shared/parts";
import { Bar } from "./Bar";
import { Fallen } from "./Fallen";
import { Help } from "./Help";
import { Messages } from "./Messages";
import { useTitle } from "./useTitle";
import { addressOf, useGo, useWhere, VIEWS } from "./where";

// The overview comes with the page; the other views are fetched while the person reads it.
const fetches = {
  Start: () => import("../start/Start").then((m) => ({ default: m.Start })),
  Programs: () => import("../programs/Programs").then((m) => ({ default: m.Programs })),
  Places: () => import("../places/Places").then((m) => ({ default: m.Places })),
  Plan: () => import("../plan/Plan").then((m) => ({ default: m.Plan })),
  Trail: () => import("../trail/Trail").then((m) => ({ default: m.Trail })),
  Desk: () => import("../desk/Desk").then((m) => ({ default: m.Desk })),
  Telling: () => import("../telling/Telling").then((m) => ({ default: m.Telling })),
  Compare: () => import("../compare/Compare").then((m) => ({ default: m.Compare })),
  Parts: () => import("../parts/Parts").then((m) => ({ default: m.Parts })),
  Links: () => import("../links/Links").then((m) => ({ default: m.Links })),
  Pack: () => import("../pack/Pack").then((m) => ({ default: m.Pack })),
  Closing: () => import("../closing/Closing").then((m) => ({ default: m.Closing })),
  Prove: () => import("../prove/Prove").then((m) => ({ default: m.Prove })),
  Together: () => import("../together/Together").then((m) => ({ default: m.Together })),
};
type Fetch = (typeof fetches)[keyof typeof fetches];
const fetched = new Map<Fetch, ComponentType>();

/** A view shown at once if it was fetched; React would wait a moment even then. */
function viewOf(fetch: Fetch): ComponentType {
  const Later = lazy(fetch);
  return function View() {
    const [Now] = useState(() => fetched.get(fetch));
    return Now ? <Now /> : <Later />;
  };
}
const Start = viewOf(fetches.Start);
const Programs = viewOf(fetches.Programs);
const Places = viewOf(fetches.Places);
const Plan = viewOf(fetches.Plan);
const Trail = viewOf(fetches.Trail);
const Desk = viewOf(fetches.Desk);
const Telling = viewOf(fetches.Telling);
const Compare = viewOf(fetches.Compare);
const Parts = viewOf(fetches.Parts);
const Links = viewOf(fetches.Links);
const Pack = viewOf(fetches.Pack);
const Closing = viewOf(fetches.Closing);
const Prove = viewOf(fetches.Prove);
const Together = viewOf(fetches.Together);

function fetchTheRest(): () => void {
  const waiting = setTimeout(() => {
    for (const fetch of Object.values(fetches))
      fetch()
        .then((view) => fetched.set(fetch, view.default))
        .catch(() => undefined);
  }, 3000);
  return () => clearTimeout(waiting);
}

function Closed({ error }: { error: unknown }) {
  const used = new URLSearchParams(window.location.search).get("link") === "used";
  const away = !(error instanceof Problem) || error.status !== 401;
  return (
    <Empty title={away ? "Kavrin does not answer" : "This page needs a one-time link"}>
      <Text mb="2">
        {away
          ? (error as Error).message
          : used
            ? "That link was used already or has grown old. Each opens the door once."
            : "Kavrin opens only by the link it printed when it started."}
      </Text>
      <Text>
        For a new one, run{" "}
        <Text as="code" fontFamily="mono">
          ./kavrin link
        </Text>{" "}
        on the machine it runs on.
      </Text>
    </Empty>
  );
}

function Views() {
  const [help, setHelp] = useState(false);
  const { inHand, overview } = useWhere();
  useTitle(overview.data);
  const { go, pathname } = useGo();
  const queries = useQueryClient();
  useEffect(() => listen(queries), [queries]);
  useEffect(fetchTheRest, []);
  const document = inHand?.document.id;
  const copiesLie = inHand?.project.recovery;
  const [told, setTold] = useState("");
  const keys = useMemo(
    () => ({
      "?": () => setHelp(true),
      k: () => {
        if (copiesLie) {
          void navigator.clipboard
            .writeText(copiesLie)
            .then(() => setTold(`Copied the path of the recovery folder: ${copiesLie}`));
        }
      },
      ...Object.fromEntries(VIEWS.map((v) => [v.digit, () => go(addressOf(v, document))])),
    }),
    [document, copiesLie, go],
  );
  useKeys(keys);
  useEffect(() => {
    const fades = setTimeout(() => setTold(""), 4000);
    return () => clearTimeout(fades);
  }, [told]);
  return (
    <Flex direction="column" h="100%" minW="1000px">
      <Bar onHelp={() => setHelp(true)} />
      <Messages />
      <Help open={help} onClose={() => setHelp(false)} />
      <Box
        role="status"
        position="fixed"
        bottom="3"
        left="4"
        zIndex="toast"
        px={told ? "3" : "0"}
        py={told ? "2" : "0"}
        bg="ink"
        color="ground"
        fontSize="13px"
        borderRadius="4px"
      >
        {told}
      </Box>
      <Box as="main" flex="1" minH="0" overflow="auto">
        <Fallen key={pathname}>
          <Suspense fallback={<Loading what="Opening" />}>
            <Routes>
              <Route path="/" element={<Navigate to="/overview" replace />} />
              <Route path="/overview" element={<Overview />} />
              <Route path="/start" element={<Start />} />
              <Route path="/programs" element={<Programs />} />
              <Route path="/places" element={<Places />} />
              <Route path="/telling" element={<Telling />} />
              <Route path="/plan/:documentId?" element={<Plan />} />
              <Route path="/trail/:documentId?" element={<Trail />} />
              <Route path="/desk/:documentId?" element={<Desk />} />
              <Route path="/compare/:documentId?" element={<Compare />} />
              <Route path="/parts/:documentId?" element={<Parts />} />
              <Route path="/links/:documentId?" element={<Links />} />
              <Route path="/pack/:documentId?" element={<Pack />} />
              <Route path="/closing/:documentId?" element={<Closing />} />
              <Route path="/prove/:documentId?" element={<Prove />} />
              <Route path="/together/:documentId?" element={<Together />} />
              <Route path="*" element={<Navigate to="/overview" replace />} />
            </Routes>
          </Suspense>
        </Fallen>
      </Box>
    </Flex>
  );
}

export function App() {
  useMode();
  const session = useSession();
  if (session.isPending) return <Loading what="Opening Kavrin" />;
  if (session.isError) return <Closed error={session.error} />;
  return <Views />;
}
