import { Box, Table, Text, VisuallyHidden } from "@chakra-ui/react";
import { useState } from "react";
import { useEndSession, useOwnSessions, usePassword, useSignOut } from "../api/people";
import { useSession } from "../api/queries";
import type { OwnSession } from "../api/schema";
import { Failure, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { given } from "../shared/words";
import { Secret } from "./SignIn";
import { phrase } from "../words/phrase";

/** A browser as people call it: its name and the system it runs on. */
export function browserName(agent: string): string {
  const name = /(Firefox|Edg|Chrome|Safari)\//.exec(agent)?.[1] ?? phrase("people.anotherProgram");
  const system = /(Windows|Mac OS|Android|iPhone|Linux)/.exec(agent)?.[1];
  return `${name === "Edg" ? "Edge" : name}${system ? ` ${phrase("people.on", { system })}` : ""}`;
}

function Line({ session, zone, now }: { session: OwnSession; zone: string; now: number }) {
  const end = useEndSession();
  return (
    <Table.Row bg="transparent">
      <Table.Cell>{browserName(session.browser)}</Table.Cell>
      <Table.Cell>{session.from}</Table.Cell>
      <Table.Cell>{moment(session.since, zone, now)}</Table.Cell>
      <Table.Cell>{moment(session.lastUsed, zone, now)}</Table.Cell>
      <Table.Cell textAlign="end">
        {session.here ? (
          phrase("people.here")
        ) : (
          <Quiet loading={end.isPending} onClick={() => end.mutate(session.id)}>
            {phrase("people.signOutThere")}
          </Quiet>
        )}
      </Table.Cell>
    </Table.Row>
  );
}

/** Where one is signed in. */
export function Sessions() {
  const sessions = useOwnSessions();
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow(60_000);
  const signOut = useSignOut();
  return (
    <Box mb="6">
      <Text as="h2" fontSize="16px" fontWeight="650" mb="1">
        {phrase("people.whereYouAreSignedIn")}
      </Text>
      <Failure error={sessions.error ?? signOut.error} />
      <Table.ScrollArea
        position="relative"
        tabIndex={0}
        role="region"
        aria-label={phrase("people.whereYouAreSignedIn")}
      >
        <Table.Root size="sm" fontSize="13px" minW="620px">
          <Table.Header>
            <Table.Row bg="transparent">
              {[
                phrase("people.with"),
                phrase("common.from"),
                phrase("people.since"),
                phrase("people.lastUsed"),
              ].map((head) => (
                <Table.ColumnHeader key={head} color="muted" fontWeight="400">
                  {head}
                </Table.ColumnHeader>
              ))}
              <Table.ColumnHeader>
                <VisuallyHidden>{phrase("people.whatCanBeDone")}</VisuallyHidden>
              </Table.ColumnHeader>
            </Table.Row>
          </Table.Header>
          <Table.Body>
            {(sessions.data ?? []).map((s) => (
              <Line key={s.id} session={s} zone={zone} now={now} />
            ))}
          </Table.Body>
        </Table.Root>
      </Table.ScrollArea>
      <Side mt="2" size="xs" loading={signOut.isPending} onClick={() => signOut.mutate()}>
        {phrase("people.signOutHere")}
      </Side>
    </Box>
  );
}

/** Another password; whoever came by a link has none until now. */
export function Password() {
  const change = usePassword();
  const [old, setOld] = useState("");
  const [password, setPassword] = useState("");
  const save = () =>
    change.mutate(given({ old: old || undefined, password }), {
      onSuccess: () => {
        setOld("");
        setPassword("");
      },
    });
  return (
    <Box maxW="420px" mb="6">
      <Text as="h2" fontSize="16px" fontWeight="650" mb="2">
        {phrase("people.yourPassword")}
      </Text>
      <Secret
        label={phrase("people.passwordUntilNow")}
        now
        value={old}
        under={phrase("people.emptyIfYouHaveNoneYet")}
        onChange={setOld}
      />
      <Secret
        label={phrase("people.newPassword")}
        value={password}
        under={phrase("people.atLeast12CharactersYouAre")}
        onChange={setPassword}
      />
      <Failure error={change.error} />
      <Side size="xs" disabled={password.length < 12} loading={change.isPending} onClick={save}>
        {phrase("people.change")}
      </Side>
      <Text role="status" fontSize="12px" color="muted" mt="1" minH="18px">
        {change.isSuccess && phrase("people.changed")}
      </Text>
    </Box>
  );
}
