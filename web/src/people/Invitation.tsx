import { useState } from "react";
import { useAccept, useInvitation } from "../api/people";
import { Empty, Failure, Loading, Main } from "../shared/parts";
import { AtTheDoor, Secret } from "./SignIn";

const SHORTEST = 12;

/** Chooses a password by the link one was sent; it works once. */
export function Invitation() {
  const token = new URLSearchParams(window.location.search).get("token") ?? "";
  const invitation = useInvitation(token);
  const accept = useAccept();
  const [password, setPassword] = useState("");
  const [again, setAgain] = useState("");
  const enter = () =>
    accept.mutate({ token, password }, { onSuccess: () => window.location.assign("/overview") });
  if (invitation.isPending) return <Loading what="Looking for your invitation" />;
  if (invitation.isError)
    return (
      <Empty title="This invitation opens nothing">
        <Failure error={invitation.error} />
      </Empty>
    );
  const differs = again !== "" && again !== password;
  return (
    <AtTheDoor
      title={`Welcome, ${invitation.data.name}`}
      under="Choose a password. With it and your name you sign in from now on."
      onSubmit={enter}
    >
      <Secret
        label="Password"
        value={password}
        under={`At least ${SHORTEST} characters; several words are easy to keep in mind.`}
        onChange={setPassword}
      />
      <Secret
        label="The same again"
        value={again}
        {...(differs ? { under: "These two are not the same." } : {})}
        onChange={setAgain}
      />
      <Failure error={accept.error} />
      <Main
        type="submit"
        loading={accept.isPending}
        disabled={password.length < SHORTEST || password !== again}
      >
        Choose and sign in
      </Main>
    </AtTheDoor>
  );
}
