import { Box, Flex, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useMemo, useState } from "react";
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
import { fetchLater, views } from "./views";
import { addressOf, useGo, useWhere, VIEWS } from "./where";
import { phrase } from "../words/phrase";

function Away({ error }: { error: Error }) {
  return (
    <Empty title={phrase("app.kavrinDoesNotAnswer")}>
      <Text mb="2">{error.message}</Text>
      <Text>
        {phrase("app.kavrinDoctorOnTheMachineIt", {
          b: (text) => (
            <Text as="code" fontFamily="mono">
              {text}
            </Text>
          ),
        })}
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
  useEffect(fetchLater, []);
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
            .then(() => setTold(phrase("app.copiedThePathOfTheBackup", { copiesLie })));
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
          <Suspense fallback={<Loading what={phrase("app.opening")} />}>
            <Routes>
              <Route path="/" element={<Navigate to="/overview" replace />} />
              <Route path="/overview" element={<Overview />} />
              <Route path="/start" element={<views.Start />} />
              <Route path="/programs" element={<views.Programs />} />
              <Route path="/folders" element={<views.Folders />} />
              <Route path="/notifications" element={<views.Notifications />} />
              <Route path="/plan/:documentId?" element={<views.Plan />} />
              <Route path="/versions/:documentId?" element={<views.Versions />} />
              <Route path="/recover/:documentId?" element={<views.Recover />} />
              <Route path="/compare/:documentId?" element={<views.Compare />} />
              <Route path="/parts/:documentId?" element={<views.Parts />} />
              <Route path="/links/:documentId?" element={<views.Links />} />
              <Route path="/pack/:documentId?" element={<views.Pack />} />
              <Route path="/crash-report/:documentId?" element={<views.CrashReport />} />
              <Route path="/recovery-test/:documentId?" element={<views.RecoveryTest />} />
              <Route path="/recover-several/:documentId?" element={<views.RecoverSeveral />} />
              <Route path="/under-way" element={<views.UnderWay />} />
              <Route path="/elsewhere/:documentId?" element={<views.Elsewhere />} />
              <Route path="/people" element={<views.People />} />
              <Route path="/bring-back" element={<views.BringBack />} />
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
  if (session.isPending) return <Loading what={phrase("app.openingKavrin")} />;
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
