import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  useAdministersSomething,
  useGrants,
  useInvite,
  usePeople,
  useRemovePerson,
} from "../api/people";
import { useSession } from "../api/queries";
import type { Grant, PersonLine } from "../api/schema";
import { Failure, Loading, Main, Notice, PageHead, PathText, Quiet } from "../shared/parts";
import { Password, Sessions } from "./Own";
import { Rights } from "./Rights";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

const HERE_ONLY = ["127.0.0.1", "localhost", "[::1]"];

const whole = (path: string) => `${window.location.origin}${path}`;

/** Shown once: only its digest is kept. */
function Link({ name, path }: { name: string; path: string }) {
  return (
    <Box my="2">
      <Notice tone="caution">
        {phrase("people.sendThisToItWorksOnce", { name })}
        <Box mt="1">
          <PathText path={whole(path)} what="link" />
        </Box>
      </Notice>
    </Box>
  );
}

function Person({ person, self }: { person: PersonLine; self: boolean }) {
  const grants = useGrants();
  const remove = useRemovePerson();
  const invite = useInvite();
  const [sure, setSure] = useState(false);
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline">
      <Flex gap="3" align="baseline" wrap="wrap">
        <Text as="h2" fontSize="14px" fontWeight="650" minW="0" overflowWrap="anywhere">
          {person.name}
          {self && ` ${phrase("people.you")}`}
        </Text>
        <Text fontSize="12px" color="muted" flex="1">
          {person.waiting
            ? phrase("people.invitedNotHereYet")
            : person.password
              ? phrase("people.signsInByPassword")
              : phrase("people.comesByALinkOnThis")}
        </Text>
        {!self && person.whole && (
          <>
            {!person.password && (
              <Quiet
                loading={invite.isPending}
                onClick={() => invite.mutate({ name: person.name, grants: [] })}
              >
                {phrase("people.newInvitation")}
              </Quiet>
            )}
            {sure ? (
              <Quiet
                color="loss"
                loading={remove.isPending}
                onClick={() => remove.mutate(person.name)}
              >
                {phrase("people.yesShowOut", { name: person.name })}
              </Quiet>
            ) : (
              <Quiet onClick={() => setSure(true)}>{phrase("people.remove")}</Quiet>
            )}
          </>
        )}
      </Flex>
      <Rights
        grants={person.grants}
        onChange={(changed) => grants.mutate({ name: person.name, grants: changed })}
      />
      {invite.data?.path && <Link name={person.name} path={invite.data.path} />}
      <Failure error={grants.error ?? remove.error ?? invite.error} />
    </Box>
  );
}

function Invite() {
  const invite = useInvite();
  const [name, setName] = useState("");
  const [grants, setGrants] = useState<Grant[]>([]);
  const asked = invite.variables?.name ?? "";
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline">
      <Text as="h2" fontSize="14px" fontWeight="650" mb="1.5">
        {phrase("people.inviteSomebody")}
      </Text>
      <Input
        size="sm"
        w="260px"
        maxW="100%"
        mb="2"
        borderColor="hairline"
        fontSize="13px"
        aria-label={phrase("people.nameOfWhomYouInvite")}
        placeholder={phrase("people.nameAsItStandsInThe")}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <Rights grants={grants} onChange={setGrants} />
      {HERE_ONLY.includes(window.location.hostname) && (
        <Text fontSize="12px" color="muted" mt="1.5">
          {phrase("people.thisPageAnswersOnThisMachine", {
            b: (text) => (
              <Text as="code" fontFamily="mono">
                {text}
              </Text>
            ),
          })}
        </Text>
      )}
      <Main
        mt="2"
        size="xs"
        disabled={!name.trim() || grants.length === 0}
        loading={invite.isPending}
        onClick={() =>
          invite.mutate(
            { name: name.trim(), grants },
            {
              onSuccess: () => {
                setName("");
                setGrants([]);
              },
            },
          )
        }
      >
        {phrase("people.invite")}
      </Main>
      {invite.data?.path && <Link name={asked} path={invite.data.path} />}
      {invite.data && !invite.data.path && (
        <Notice tone="fir">{phrase("people.signsInAlreadyAndMayDo", { asked })}</Notice>
      )}
      <Failure error={invite.error} />
    </Box>
  );
}

/** Who is let in and what each may, and one's own sessions and password. */
export function People() {
  const session = useSession().data;
  const administers = useAdministersSomething();
  const people = usePeople(administers);
  const all = people.data ?? [];
  return (
    <>
      <PageHead
        title={
          administers
            ? phrase("people.letIn", {
                people: count(all.length, "person"),
              })
            : (session?.name ?? "")
        }
        under={
          administers
            ? phrase("people.whatEachMayByProjectWhat")
            : phrase("people.whereYouAreSignedInAnd")
        }
      />
      <Box px="4" py="3" maxW="860px">
        {administers && (
          <Box mb="8">
            {people.isPending && <Loading what={phrase("people.lookingWhoIsLetIn")} />}
            <Failure error={people.error} />
            {all.map((p) => (
              <Person key={p.name} person={p} self={p.name === session?.name} />
            ))}
            <Invite />
          </Box>
        )}
        <Sessions />
        <Password />
      </Box>
    </>
  );
}
