import { useState } from "react";
import { useAccept, useInvitation } from "../api/people";
import { Empty, Failure, Loading, Main } from "../shared/parts";
import { AtTheDoor, Secret } from "./SignIn";
import { phrase } from "../words/phrase";

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
  if (invitation.isPending) return <Loading what={phrase("people.lookingForYourInvitation")} />;
  if (invitation.isError)
    return (
      <Empty title={phrase("people.thisInvitationOpensNothing")}>
        <Failure error={invitation.error} />
      </Empty>
    );
  const differs = again !== "" && again !== password;
  return (
    <AtTheDoor
      title={phrase("people.welcome", { name: invitation.data.name })}
      under={phrase("people.chooseAPasswordWithItAnd")}
      onSubmit={enter}
    >
      <Secret
        label={phrase("people.password")}
        value={password}
        under={phrase("people.atLeastCharactersSeveralWordsAre", { shortest: SHORTEST })}
        onChange={setPassword}
      />
      <Secret
        label={phrase("people.theSameAgain")}
        value={again}
        {...(differs ? { under: phrase("people.theseTwoAreNotTheSame") } : {})}
        onChange={setAgain}
      />
      <Failure error={accept.error} />
      <Main
        type="submit"
        loading={accept.isPending}
        disabled={password.length < SHORTEST || password !== again}
      >
        {phrase("people.chooseAndSignIn")}
      </Main>
    </AtTheDoor>
  );
}
