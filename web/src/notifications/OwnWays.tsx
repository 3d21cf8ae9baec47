import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import {
  useOwnNotifications,
  useOwnNotificationTest,
  useSetOwnNotifications,
} from "../api/notifications";
import { useMay } from "../api/people";
import { useSession } from "../api/queries";
import type { KindView, OutcomeView, OwnNotifications, OwnNotificationsView } from "../api/schema";
import { Tick } from "../shared/fields";
import { Failure, Loading, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { given } from "../shared/words";
import { phrase } from "../words/phrase";

/** One way of being told, with what came of it last. */
export function Way(props: {
  ready: boolean;
  trying: boolean;
  onTry: () => void;
  last: { at: string; problem?: string | undefined } | undefined;
  error: Error | null;
  children: ReactNode;
}) {
  const session = useSession();
  const now = useNow(60_000);
  const { last } = props;
  const when = (at: string) => moment(at, session.data?.zone ?? "UTC", now);
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline">
      <Flex gap="3" align="flex-start">
        <Box flex="1">{props.children}</Box>
        <Side size="xs" disabled={!props.ready} loading={props.trying} onClick={props.onTry}>
          {phrase("notifications.tryIt")}
        </Side>
      </Flex>
      <Text fontSize="12px" color={last?.problem ? "loss" : "muted"} minH="18px" role="status">
        {last &&
          (last.problem
            ? phrase("notifications.didNotArrive", { when: when(last.at), problem: last.problem })
            : phrase("notifications.arrived", { when: when(last.at) }))}
      </Text>
      <Failure error={props.error} />
    </Box>
  );
}

/** Which kinds of messages are wanted. */
export function Kinds(props: {
  label: string;
  kinds: KindView[];
  silent: OwnNotifications["silent"];
  onChange: (silent: OwnNotifications["silent"]) => void;
}) {
  const { silent } = props;
  return (
    <Box role="group" aria-label={props.label}>
      {props.kinds.map(({ kind, words }) => (
        <Box key={kind} py="0.5">
          <Tick
            label={words}
            on={!silent.includes(kind)}
            onChange={(on) =>
              props.onChange(on ? silent.filter((k) => k !== kind) : [...silent, kind])
            }
          />
        </Box>
      ))}
    </Box>
  );
}

function Mine({ view }: { view: OwnNotificationsView }) {
  const administers = useMay()("ADMINISTER");
  const change = useSetOwnNotifications();
  const test = useOwnNotificationTest();
  const [address, setAddress] = useState(view.own.mail ?? "");
  const { own } = view;
  const set = (changes: Partial<OwnNotifications>) => change.mutate(given({ ...own, ...changes }));
  const askBrowser = (browser: boolean) => {
    set({ browser });
    if (browser && Notification.permission === "default") void Notification.requestPermission();
  };
  const blocked = own.browser && Notification.permission === "denied";
  const way = (channel: OutcomeView["channel"], ready: boolean, children: ReactNode) => (
    <Way
      ready={ready}
      trying={test.isPending && test.variables === channel}
      onTry={() => test.mutate(channel)}
      last={
        test.data?.channel === channel
          ? test.data
          : channel === "MAIL" && view.mailed
            ? { at: view.mailed, problem: view.problem }
            : undefined
      }
      error={test.variables === channel ? test.error : null}
    >
      {children}
    </Way>
  );
  return (
    <>
      <Failure error={change.error} />
      {way(
        "PAGE",
        own.page,
        <Tick
          label={phrase("notifications.showMeMessagesInThePage")}
          on={own.page}
          onChange={(page) => set({ page })}
        />,
      )}
      {way(
        "BROWSER",
        own.browser,
        <>
          <Tick
            label={phrase("notifications.asANotificationOfThisBrowser")}
            on={own.browser}
            onChange={askBrowser}
          />
          {blocked && (
            <Text fontSize="12px" color="caution">
              {phrase("notifications.thisBrowserWasToldNotTo")}
            </Text>
          )}
        </>,
      )}
      {way(
        "MAIL",
        view.canMail && own.mail !== undefined,
        <Flex
          as="form"
          gap="2"
          wrap="wrap"
          align="center"
          fontSize="14px"
          onSubmit={(e) => {
            e.preventDefault();
            set({ mail: address.trim() || undefined });
          }}
        >
          {phrase("notifications.byMailTo", {
            input: (
              <Input
                size="sm"
                w="260px"
                type="email"
                borderColor="hairline"
                fontSize="13px"
                aria-label={phrase("notifications.yourMailAddress")}
                placeholder={phrase("notifications.yourAddressEmptyForNoMail")}
                value={address}
                onChange={(e) => setAddress(e.target.value)}
              />
            ),
          })}
          <Side
            size="xs"
            type="submit"
            disabled={address.trim() === (own.mail ?? "")}
            loading={change.isPending}
          >
            {phrase("notifications.set")}
          </Side>
          {!view.canMail && (
            <Text fontSize="12px" color="muted" w="100%">
              {phrase("notifications.thisMachineHasNoMailServer", {
                help: administers
                  ? phrase("notifications.setOneBelow")
                  : phrase("notifications.whoeverAdministersKavrinSetsOne"),
              })}
            </Text>
          )}
        </Flex>,
      )}
      <Text as="h3" fontSize="13px" fontWeight="650" mt="3" mb="1">
        {phrase("notifications.whatYouWantToHearOf")}
      </Text>
      <Kinds
        label={phrase("notifications.whatYouWantToHearOf")}
        kinds={view.kinds}
        silent={own.silent}
        onChange={(silent) => set({ silent })}
      />
    </>
  );
}

/** How the person signed in is told; each change holds at once. */
export function OwnWays() {
  const view = useOwnNotifications();
  return (
    <>
      <Text as="h2" fontSize="14px" fontWeight="650" mt="2">
        {phrase("notifications.forYou")}
      </Text>
      <Failure error={view.error} />
      {view.isPending ? (
        <Loading what={phrase("notifications.readingWhatYouWantToHear")} />
      ) : (
        view.data && <Mine key={view.data.own.mail} view={view.data} />
      )}
    </>
  );
}
