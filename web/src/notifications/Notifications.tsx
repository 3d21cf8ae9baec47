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
import { phrase } from "../words/phrase";

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
      <Line
        label={phrase("notifications.mailServer")}
        value={mail.host}
        onChange={(host) => set({ host })}
      />
      <Number
        label={phrase("notifications.portOfTheMailServer")}
        value={mail.port}
        min={1}
        max={65535}
        onChange={(port) => set({ port: Math.round(port) })}
      />
      <Tick
        label={phrase("notifications.onlyEncrypted")}
        on={mail.tls}
        onChange={(tls) => set({ tls })}
      />
      <Line
        label={phrase("notifications.sender")}
        value={mail.from}
        onChange={(from) => set({ from })}
      />
      <Line
        label={phrase("notifications.receiver")}
        value={mail.to}
        onChange={(to) => set({ to })}
      />
      <Line
        label={phrase("notifications.userAtTheMailServer")}
        placeholder={phrase("notifications.userIfItWantsOne")}
        value={mail.user ?? ""}
        onChange={(user) => set({ user: user || undefined })}
      />
      <Line
        label={phrase("notifications.passwordAtTheMailServer")}
        placeholder={
          props.hasPassword
            ? phrase("notifications.asSetBefore")
            : phrase("notifications.passwordIfItWantsOne")
        }
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
        title={
          view.needsPage
            ? phrase("notifications.notifiedOnlyWhileAPageIs")
            : phrase("notifications.notifiedPageOpenOrNot")
        }
        under={phrase("notifications.whatKavrinTellsYouAndBy")}
      >
        {dirty && (
          <Side onClick={() => setChanged(undefined)}>{phrase("notifications.asItWas")}</Side>
        )}
        <Main
          disabled={!dirty}
          loading={tell.isPending}
          onClick={() => tell.mutate(present, { onSuccess: () => setChanged(undefined) })}
        >
          {dirty ? phrase("notifications.save") : phrase("notifications.nothingToSave")}
        </Main>
      </PageHead>
      <Box px="4" py="2" maxW="860px">
        <Failure error={tell.error} />
        {view.needsPage && (
          <Notice tone="caution">{phrase("notifications.nothingCanBeDeliveredWhileNo")}</Notice>
        )}
        <OwnWays />
        <Text as="h2" fontSize="14px" fontWeight="650" mt="6" mb="1">
          {phrase("notifications.fromThisMachineForEverybody")}
        </Text>
        <Box py="2">
          <Text fontSize="13px" color="muted">
            {phrase("notifications.whoHasChosenNothingForThemselves")}
          </Text>
          <Tick
            label={phrase("notifications.inEveryOpenPage")}
            on={present.page}
            onChange={(page) => set({ page })}
          />
          <br />
          <Tick
            label={phrase("notifications.asANotificationOfTheirBrowser")}
            on={present.browser}
            onChange={(browser) => set({ browser })}
          />
        </Box>
        {way(
          "DESKTOP",
          present.desktop,
          <Tick
            label={phrase("notifications.onTheDesktopOfTheMachine")}
            on={present.desktop}
            onChange={(desktop) => set({ desktop })}
          />,
        )}
        {way(
          "MAIL",
          present.mail !== undefined,
          <>
            <Tick
              label={phrase("notifications.byMail")}
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
              label={phrase("notifications.postedAsJsonToAnAddress")}
              on={present.webhook !== undefined}
              onChange={(on) => set({ webhook: on ? { url: "https://" } : undefined })}
            />
            {present.webhook && (
              <Box mt="2">
                <Line
                  label={phrase("notifications.addressToPostTo")}
                  w="520px"
                  value={present.webhook.url}
                  onChange={(url) => set({ webhook: { url } })}
                />
              </Box>
            )}
          </>,
        )}
        <Text as="h3" fontSize="13px" fontWeight="650" mt="4" mb="1">
          {phrase("notifications.whatAnybodyIsToldOf")}
        </Text>
        <Kinds
          label={phrase("notifications.whatAnybodyIsToldOf")}
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
  if (!telling.data)
    return <Loading what={phrase("notifications.readingTheNotificationSettings")} />;
  return <Ways view={telling.data} />;
}

/** How people are told of crashes, reminders and what stands in the way of safety. */
export function Notifications() {
  const administers = useMay()("ADMINISTER");
  if (administers) return <ForEverybody />;
  return (
    <>
      <PageHead
        title={phrase("notifications.whatYouAreToldOf")}
        under={phrase("notifications.ofTheProjectsYouMayLook")}
      />
      <Box px="4" py="2" maxW="860px">
        <OwnWays />
      </Box>
    </>
  );
}
