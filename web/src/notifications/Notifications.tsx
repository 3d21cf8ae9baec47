import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import type {
  OutcomeView,
  NotificationSettings as TellingRecord,
  TellingView,
} from "../api/schema";
import { useNotifications, useNotificationTest, useTellPeople } from "../api/notifications";
import { useMay } from "../api/people";
import { Number, Tick } from "../shared/fields";
import { Failure, Loading, Main, Notice, PageHead, Side } from "../shared/parts";
import { given } from "../shared/words";
import { ExportImport } from "./ExportImport";
import { Kinds, OwnWays, Way } from "./OwnWays";

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

/** One way out of this machine, with what came of it last. */
function WayOut(props: {
  channel: Channel;
  on: boolean;
  dirty: boolean;
  outcomes: OutcomeView[];
  children: ReactNode;
}) {
  const test = useNotificationTest();
  const last = test.data ?? props.outcomes.find((o) => o.channel === props.channel);
  return (
    <Way
      ready={props.on && !props.dirty}
      trying={test.isPending}
      onTry={() => test.mutate(props.channel)}
      last={last}
      error={test.error}
    >
      {props.children}
    </Way>
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
    <WayOut channel={channel} on={on} dirty={dirty} outcomes={view.outcomes}>
      {children}
    </WayOut>
  );
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
        <OwnWays />
        <Text as="h2" fontSize="14px" fontWeight="650" mt="6" mb="1">
          From this machine, for everybody
        </Text>
        <Box py="2">
          <Text fontSize="13px" color="muted">
            Who has chosen nothing for themselves yet is told
          </Text>
          <Tick label="in every open page" on={present.page} onChange={(page) => set({ page })} />
          <br />
          <Tick
            label="as a notification of their browser, while a page is open"
            on={present.browser}
            onChange={(browser) => set({ browser })}
          />
        </Box>
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
        <Text as="h3" fontSize="13px" fontWeight="650" mt="4" mb="1">
          What anybody is told of
        </Text>
        <Kinds
          label="What anybody is told of"
          kinds={view.kinds}
          silent={present.silent}
          onChange={(silent) => set({ silent })}
        />
        <ExportImport />
      </Box>
    </>
  );
}

function ForEverybody() {
  const telling = useNotifications();
  if (telling.error) return <Failure error={telling.error} />;
  if (!telling.data) return <Loading what="Reading the notification settings" />;
  return <Ways view={telling.data} />;
}

/** How people are told of crashes, reminders and what stands in the way of safety. */
export function Notifications() {
  const administers = useMay()("ADMINISTER");
  if (administers) return <ForEverybody />;
  return (
    <>
      <PageHead
        title="What you are told of"
        under="Of the projects you may look at, and of no others."
      />
      <Box px="4" py="2" maxW="860px">
        <OwnWays />
      </Box>
    </>
  );
}
