import { Box, Flex, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { type ComponentType, lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { Problem } from "../api/client";
import { listen } from "../api/events";
import { useSession } from "../api/queries";
import { Overview } from "../overview/Overview";
import { useMode } from "../theme/mode";
import { useKeys } from "../shared/keys";
import { Empty, Loading } from "../shared/parts";
import { Invitation } from "../people/Invitation";
import { SignIn } from "../people/SignIn";
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
  Folders: () => import("../folders/Folders").then((m) => ({ default: m.Folders })),
  Plan: () => import("../plan/Plan").then((m) => ({ default: m.Plan })),
  Versions: () => import("../versions/Versions").then((m) => ({ default: m.Versions })),
  Recover: () => import("../recover/Recover").then((m) => ({ default: m.Recover })),
  Notifications: () =>
    import("../notifications/Notifications").then((m) => ({ default: m.Notifications })),
  Compare: () => import("../compare/Compare").then((m) => ({ default: m.Compare })),
  Parts: () => import("../parts/Parts").then((m) => ({ default: m.Parts })),
  Links: () => import("../links/Links").then((m) => ({ default: m.Links })),
  Pack: () => import("../pack/Pack").then((m) => ({ default: m.Pack })),
  CrashReport: () => import("../crashreport/CrashReport").then((m) => ({ default: m.CrashReport })),
  RecoveryTest: () =>
    import("../recoverytest/RecoveryTest").then((m) => ({ default: m.RecoveryTest })),
  UnderWay: () => import("../underway/UnderWay").then((m) => ({ default: m.UnderWay })),
  Elsewhere: () => import("../elsewhere/Elsewhere").then((m) => ({ default: m.Elsewhere })),
  People: () => import("../people/People").then((m) => ({ default: m.People })),
  BringBack: () => import("../elsewhere/BringBack").then((m) => ({ default: m.BringBack })),
  RecoverSeveral: () =>
    import("../recoverseveral/RecoverSeveral").then((m) => ({ default: m.RecoverSeveral })),
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
const Folders = viewOf(fetches.Folders);
const Plan = viewOf(fetches.Plan);
const Versions = viewOf(fetches.Versions);
const Recover = viewOf(fetches.Recover);
const Notifications = viewOf(fetches.Notifications);
const Compare = viewOf(fetches.Compare);
const Parts = viewOf(fetches.Parts);
const Links = viewOf(fetches.Links);
const Pack = viewOf(fetches.Pack);
const CrashReport = viewOf(fetches.CrashReport);
const RecoveryTest = viewOf(fetches.RecoveryTest);
const RecoverSeveral = viewOf(fetches.RecoverSeveral);
const UnderWay = viewOf(fetches.UnderWay);
const Elsewhere = viewOf(fetches.Elsewhere);
const People = viewOf(fetches.People);
const BringBack = viewOf(fetches.BringBack);

function fetchTheRest(): () => void {
  const waiting = setTimeout(() => {
    for (const fetch of Object.values(fetches))
      fetch()
        .then((view) => fetched.set(fetch, view.default))
        .catch(() => undefined);
  }, 3000);
  return () => clearTimeout(waiting);
}

function Away({ error }: { error: Error }) {
  return (
    <Empty title="Kavrin does not answer">
      <Text mb="2">{error.message}</Text>
      <Text>
        <Text as="code" fontFamily="mono">
          ./kavrin doctor
        </Text>{" "}
        on the machine it runs on says what is wrong.
      </Text>
    </Empty>
  );
}

function Views() {
  const [help, setHelp] = useState(false);
  const { inHand, overview } = useWhere();
  useTitle(overview.data, inHand?.document.name);
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
            .then(() => setTold(`Copied the path of the backup folder: ${copiesLie}`));
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
    <Flex direction="column" h="100%" minW="0">
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
              <Route path="/folders" element={<Folders />} />
              <Route path="/notifications" element={<Notifications />} />
              <Route path="/plan/:documentId?" element={<Plan />} />
              <Route path="/versions/:documentId?" element={<Versions />} />
              <Route path="/recover/:documentId?" element={<Recover />} />
              <Route path="/compare/:documentId?" element={<Compare />} />
              <Route path="/parts/:documentId?" element={<Parts />} />
              <Route path="/links/:documentId?" element={<Links />} />
              <Route path="/pack/:documentId?" element={<Pack />} />
              <Route path="/crash-report/:documentId?" element={<CrashReport />} />
              <Route path="/recovery-test/:documentId?" element={<RecoveryTest />} />
              <Route path="/recover-several/:documentId?" element={<RecoverSeveral />} />
              <Route path="/under-way" element={<UnderWay />} />
              <Route path="/elsewhere/:documentId?" element={<Elsewhere />} />
              <Route path="/people" element={<People />} />
              <Route path="/bring-back" element={<BringBack />} />
              <Route path="*" element={<Navigate to="/overview" replace />} />
            </Routes>
          </Suspense>
        </Fallen>
      </Box>
    </Flex>
  );
}

/** Who has a session; anybody else is asked who they are. */
function Inside() {
  const session = useSession();
  if (session.isPending) return <Loading what="Opening Kavrin" />;
  if (session.isError)
    return session.error instanceof Problem && session.error.status === 401 ? (
      <SignIn />
    ) : (
      <Away error={session.error} />
    );
  return <Views />;
}

export function App() {
  useMode();
  return useLocation().pathname === "/invitation" ? <Invitation /> : <Inside />;
}
