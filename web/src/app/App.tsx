import { Box, Flex, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Navigate, Route, Routes } from "react-router";
import { Problem } from "../api/client";
import { listen } from "../api/events";
import { useSession } from "../api/queries";
import { Overview } from "../overview/Overview";
import { Places } from "../places/Places";
import { Plan } from "../plan/Plan";
import { Programs } from "../programs/Programs";
import { useMode } from "../theme/mode";
import { useKeys } from "../shared/keys";
import { Empty, Loading } from "../shared/parts";
import { Start } from "../start/Start";
import { Trail } from "../trail/Trail";
import { Bar } from "./Bar";
import { Help } from "./Help";
import { addressOf, useGo, useWhere, VIEWS } from "./where";

const Desk = lazy(() => import("../desk/Desk").then((m) => ({ default: m.Desk })));
const Compare = lazy(() => import("../compare/Compare").then((m) => ({ default: m.Compare })));

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
  const { inHand } = useWhere();
  const { go } = useGo();
  const queries = useQueryClient();
  useEffect(() => listen(queries), [queries]);
  const document = inHand?.document.id;
  const keys = useMemo(
    () => ({
      "?": () => setHelp(true),
      ...Object.fromEntries(VIEWS.map((v) => [v.digit, () => go(addressOf(v, document))])),
    }),
    [document, go],
  );
  useKeys(keys);
  return (
    <Flex direction="column" h="100%" minW="1000px">
      <Bar onHelp={() => setHelp(true)} />
      <Help open={help} onClose={() => setHelp(false)} />
      <Box as="main" flex="1" minH="0" overflow="auto">
        <Suspense fallback={<Loading what="Opening" />}>
          <Routes>
            <Route path="/" element={<Navigate to="/overview" replace />} />
            <Route path="/overview" element={<Overview />} />
            <Route path="/start" element={<Start />} />
            <Route path="/programs" element={<Programs />} />
            <Route path="/places" element={<Places />} />
            <Route path="/plan/:documentId?" element={<Plan />} />
            <Route path="/trail/:documentId?" element={<Trail />} />
            <Route path="/desk/:documentId?" element={<Desk />} />
            <Route path="/compare/:documentId?" element={<Compare />} />
            <Route path="*" element={<Navigate to="/overview" replace />} />
          </Routes>
        </Suspense>
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
