import { Box, Field, Input, Text } from "@chakra-ui/react";
import { type SyntheticEvent, type ReactNode, useState } from "react";
import { useSignIn } from "../api/people";
import { Failure, Main } from "../shared/parts";
import { phrase } from "../words/phrase";

export function Secret(props: {
  label: string;
  value: string;
  now?: boolean;
  under?: string;
  onChange: (value: string) => void;
}) {
  return (
    <Field.Root mb="3">
      <Field.Label fontSize="13px">{props.label}</Field.Label>
      <Input
        type="password"
        size="sm"
        borderColor="hairline"
        autoComplete={props.now ? "current-password" : "new-password"}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
      {props.under && (
        <Field.HelperText fontSize="12px" color="muted">
          {props.under}
        </Field.HelperText>
      )}
    </Field.Root>
  );
}

/** One question to whoever stands at the door. */
export function AtTheDoor(props: {
  title: string;
  under: ReactNode;
  onSubmit: () => void;
  children: ReactNode;
}) {
  const submit = (e: SyntheticEvent) => {
    e.preventDefault();
    props.onSubmit();
  };
  return (
    <Box as="main" maxW="420px" mx="auto" pt="12vh" px="4">
      <Text as="h1" fontSize="22px" fontWeight="650" mb="1">
        {props.title}
      </Text>
      <Text color="muted" fontSize="13px" mb="5">
        {props.under}
      </Text>
      <form onSubmit={submit}>{props.children}</form>
    </Box>
  );
}

/** By name and password; on the machine itself by a link. */
export function SignIn() {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useSignIn();
  const used = new URLSearchParams(window.location.search).get("link") === "used";
  return (
    <AtTheDoor
      title={phrase("people.signInToKavrin")}
      under={
        used
          ? phrase("people.thatLinkWasUsedAlreadyOr")
          : phrase("people.withTheNameAndPasswordYou")
      }
      onSubmit={() => signIn.mutate({ name: name.trim(), password })}
    >
      <Field.Root mb="3">
        <Field.Label fontSize="13px">{phrase("people.name")}</Field.Label>
        <Input
          size="sm"
          borderColor="hairline"
          autoComplete="username"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </Field.Root>
      <Secret label={phrase("people.password")} now value={password} onChange={setPassword} />
      <Failure error={signIn.error} />
      <Main type="submit" loading={signIn.isPending} disabled={!name.trim() || !password}>
        {phrase("people.signIn")}
      </Main>
      <Text mt="6" fontSize="13px" color="muted">
        {phrase("people.onTheMachineKavrinRunsOn", {
          b: (text) => (
            <Text as="code" fontFamily="mono">
              {text}
            </Text>
          ),
        })}
      </Text>
    </AtTheDoor>
  );
}
