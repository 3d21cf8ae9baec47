import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import type { Message } from "../api/schema";
import { useMessages, useOwnNotifications, usePutOff } from "../api/notifications";
import { useMay } from "../api/people";
import { Quiet } from "../shared/parts";
import { useGo, viewAt } from "./where";
import { phrase } from "../words/phrase";

const SHOWN = 3;

/** Shows each message once as a notification of the browser, in one of the open pages. */
function useBrowser(fresh: Message[], on: boolean) {
  useEffect(() => {
    if (!on || typeof Notification === "undefined" || Notification.permission !== "granted") return;
    for (const m of fresh) {
      const key = `kavrin.notified.${m.id}`;
      if (localStorage.getItem(key)) continue;
      localStorage.setItem(key, "1");
      new Notification(m.title, { body: m.words, tag: m.id });
    }
  }, [fresh, on]);
}

function Told({ message, onDone }: { message: Message; onDone: () => void }) {
  const { go } = useGo();
  const putOff = usePutOff();
  const may = useMay();
  const view = viewAt(message.view);
  const opens = may("LOOK") || !view || !("over" in view);
  return (
    <Box bg="ink" color="ground" borderRadius="4px" px="3" py="2" fontSize="13px" w="360px">
      <Text fontWeight="650">{message.title}</Text>
      <Text mb="1.5" whiteSpace="pre-line">
        {message.words}
      </Text>
      <Flex gap="2">
        {opens && (
          <Quiet
            color="ground"
            onClick={() => {
              go(message.view);
              onDone();
            }}
          >
            {phrase("app.show")}
          </Quiet>
        )}
        {message.kind === "REMINDER" && (
          <Quiet
            color="ground"
            onClick={() => {
              message.documents.forEach((document) => putOff.mutate({ document, minutes: 20 }));
              onDone();
            }}
          >
            {phrase("app.notFor20Min")}
          </Quiet>
        )}
        {message.path && (
          <Quiet
            color="ground"
            onClick={() => {
              void navigator.clipboard.writeText(message.path ?? "");
              onDone();
            }}
          >
            {phrase("app.copyTheProperFolder")}
          </Quiet>
        )}
        <Quiet color="ground" onClick={onDone}>
          {phrase("common.done")}
        </Quiet>
      </Flex>
    </Box>
  );
}

/** What people are told while this page is open; not where they look at it already. */
export function Messages() {
  const [opened] = useState(() => Date.now());
  const [done, setDone] = useState<string[]>([]);
  const messages = useMessages();
  const own = useOwnNotifications().data?.own;
  const { pathname } = useGo();
  const fresh = (messages.data ?? []).filter((m) => new Date(m.at).getTime() >= opened - 2000);
  useBrowser(fresh, own?.browser === true);
  const shown = fresh
    .filter((m) => !done.includes(m.id) && (m.kind === "TEST" || !pathname.startsWith(m.view)))
    .filter((m) => own?.page !== false || m.kind === "TEST")
    .slice(0, SHOWN);
  return (
    <Flex
      direction="column"
      gap="2"
      position="fixed"
      left="4"
      bottom="12"
      zIndex="toast"
      role="log"
      aria-label={phrase("app.messages")}
    >
      {shown.map((m) => (
        <Told key={m.id} message={m} onDone={() => setDone((d) => [...d, m.id])} />
      ))}
    </Flex>
  );
}
