import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import type {
  OutcomeView,
  NotificationSettings as TellingRecord,
  TellingView,
} from "../api/schema";
import { useSession, useTellPeople, useNotifications, useNotificationTest } from "../api/queries";
import { Number, Tick } from "../shared/fields";
import { Failure, Loading, Main, Notice, PageHead, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { given, moment } from "../shared/words";
import { ExportImport } from "./ExportImport";

type Channel = OutcomeView["channel"];
type Mail = NonNullable<TellingRecord["mail"]>;

const NO_MAIL: Mail = { host: "", port: 587, from: "", to: "", tls: true };

function Line(props: {
  label: string;
  value: string;
  secret?: boolean;
  placeholder?: string;
  w?: string;
  onChange: (value: string) => void;
}) {
  return (
    <Input
      size="sm"
      w={props.w ?? "260px"}
      borderColor="hairline"
      fontSize="13px"
      type={props.secret ? "password" : "text"}
      autoComplete={props.secret ? "new-password" : "off"}
      aria-label={props.label}
      placeholder={props.placeholder ?? props.label}
      value={props.value}
      onChange={(e) => props.onChange(e.target.value)}
    />
  );
}

/** One way of being told, with what came of it last. */
function Way(props: {
  channel: Channel;
  on: boolean;
  dirty: boolean;
  outcomes: OutcomeView[];
  children: ReactNode;
}) {
  const test = useNotificationTest();
  const session = useSession();
  const now = useNow(60_000);
  const last = test.data ?? props.outcomes.find((o) => o.channel === props.channel);
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline">
      <Flex gap="3" align="flex-start">
        <Box flex="1">{props.children}</Box>
        <Side
          size="xs"
          disabled={!props.on || props.dirty}
          loading={test.isPending}
          onClick={() => test.mutate(props.channel)}
        >
          Try it
        </Side>
      </Flex>
      <Text fontSize="12px" color={last?.problem ? "loss" : "muted"} minH="18px" role="status">
        {last &&
          (last.problem
            ? `Did not arrive ${moment(last.at, session.data?.zone ?? "UTC", now)}: ${last.problem}`
            : `Arrived ${moment(last.at, session.data?.zone ?? "UTC", now)}.`)}
      </Text>
      <Failure error={test.error} />
    </Box>
  );
}

function MailFields(props: {
  mail: Mail;
  hasPassword: boolean;
  set: (changes: Partial<Mail>) => void;
}) {
  const { mail, set } = props;
  return (
    <Flex gap="2" wrap="wrap" mt="2" align="center">
      <Line label="Mail server" value={mail.host} onChange={(host) => set({ host })} />
      <Number
        label="Port of the mail server"
        value={mail.port}
        min={1}
        max={65535}
        onChange={(port) => set({ port: Math.round(port) })}
      />
      <Tick label="only encrypted" on={mail.tls} onChange={(tls) => set({ tls })} />
      <Line label="Sender" value={mail.from} onChange={(from) => set({ from })} />
      <Line label="Receiver" value={mail.to} onChange={(to) => set({ to })} />
      <Line
        label="User at the mail server"
        placeholder="User, if it wants one"
        value={mail.user ?? ""}
        onChange={(user) => set({ user: user || undefined })}
      />
      <Line
        label="Password at the mail server"
        placeholder={props.hasPassword ? "as set before" : "Password, if it wants one"}
        secret
        value={mail.password ?? ""}
        onChange={(password) => set({ password: password || undefined })}
      />
    </Flex>
  );
}

function Ways({ view }: { view: TellingView }) {
  const [changed, setChanged] = useState<TellingRecord>();
  const tell = useTellPeople();
  const present = changed ?? view.telling;
  const dirty = changed !== undefined;
  const set = (changes: Partial<TellingRecord>) => setChanged(given({ ...present, ...changes }));
  const way = (channel: Channel, on: boolean, children: ReactNode) => (
    <Way channel={channel} on={on} dirty={dirty} outcomes={view.outcomes}>
      {children}
    </Way>
  );
  const askBrowser = (browser: boolean) => {
    set({ browser });
    if (browser && Notification.permission === "default") void Notification.requestPermission();
  };
  const blocked = present.browser && Notification.permission === "denied";
  return (
    <>
      <PageHead
        title={view.needsPage ? "Notified only while a page is open" : "Notified, page open or not"}
        under="What Kavrin tells you, and by which ways."
      >
        {dirty && <Side onClick={() => setChanged(undefined)}>As it was</Side>}
        <Main
          disabled={!dirty}
          loading={tell.isPending}
          onClick={() => tell.mutate(present, { onSuccess: () => setChanged(undefined) })}
        >
          {dirty ? "Save" : "Nothing to save"}
        </Main>
      </PageHead>
      <Box px="4" py="2" maxW="860px">
        <Failure error={tell.error} />
        {view.needsPage && (
          <Notice tone="caution">
            Nothing can be delivered while no page is open: set mail, a webhook, or the desktop of
            the machine Kavrin runs on.
          </Notice>
        )}
        {way(
          "PAGE",
          present.page,
          <Tick label="in every open page" on={present.page} onChange={(page) => set({ page })} />,
        )}
        {way(
          "BROWSER",
          present.browser,
          <>
            <Tick
              label="as a notification of this browser, while a page is open"
              on={present.browser}
              onChange={askBrowser}
            />
            {blocked && (
              <Text fontSize="12px" color="caution">
                This browser was told not to show notifications of Kavrin.
              </Text>
            )}
          </>,
        )}
        {way(
          "DESKTOP",
          present.desktop,
          <Tick
            label="on the desktop of the machine Kavrin runs on"
            on={present.desktop}
            onChange={(desktop) => set({ desktop })}
          />,
        )}
        {way(
          "MAIL",
          present.mail !== undefined,
          <>
            <Tick
              label="by mail"
              on={present.mail !== undefined}
              onChange={(on) => set({ mail: on ? NO_MAIL : undefined })}
            />
            {present.mail && (
              <MailFields
                mail={present.mail}
                hasPassword={view.hasPassword}
                set={(changes) =>
                  set({ mail: given({ ...(present.mail ?? NO_MAIL), ...changes }) })
                }
              />
            )}
          </>,
        )}
        {way(
          "WEBHOOK",
          present.webhook !== undefined,
          <>
            <Tick
              label="posted as JSON to an address"
              on={present.webhook !== undefined}
              onChange={(on) => set({ webhook: on ? { url: "https://" } : undefined })}
            />
            {present.webhook && (
              <Box mt="2">
                <Line
                  label="Address to post to"
                  w="520px"
                  value={present.webhook.url}
                  onChange={(url) => set({ webhook: { url } })}
                />
              </Box>
            )}
          </>,
        )}
        <Text fontSize="14px" fontWeight="650" mt="4" mb="1">
          What you want to hear of
        </Text>
        {view.kinds.map(({ kind, words }) => (
          <Box key={kind} py="0.5">
            <Tick
              label={words}
              on={!present.silent.includes(kind)}
              onChange={(on) =>
                set({
                  silent: on ? present.silent.filter((k) => k !== kind) : [...present.silent, kind],
                })
              }
            />
          </Box>
        ))}
        <ExportImport />
      </Box>
    </>
  );
}

/** How people are told of crashes, reminders and what stands in the way of safety. */
export function Notifications() {
  const telling = useNotifications();
  if (telling.error) return <Failure error={telling.error} />;
  if (!telling.data) return <Loading what="Reading the notification settings" />;
  return <Ways view={telling.data} />;
}
