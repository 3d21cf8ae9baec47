import { Button, Menu, Portal } from "@chakra-ui/react";
import { useAdministersSomething, useSignOut } from "../api/people";
import { useSession } from "../api/queries";
import { useGo } from "./where";
import { type Language, LANGUAGES, pick } from "../words/language";
import { phrase, spoken } from "../words/phrase";

/** The person signed in, and what is theirs alone. */
export function You() {
  const name = useSession().data?.name;
  const administers = useAdministersSomething();
  const signOut = useSignOut();
  const { go } = useGo();
  return (
    <Menu.Root>
      <Menu.Trigger asChild>
        <Button
          variant="plain"
          size="xs"
          px="1"
          fontSize="13px"
          fontWeight="400"
          color="ink"
          textDecoration="underline"
          flexShrink="0"
        >
          {name}
        </Button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <Menu.Content bg="ground" color="ink" borderColor="hairline">
            <Menu.Item value="notifications" onClick={() => go("/notifications")}>
              {phrase("app.notifications")}
            </Menu.Item>
            <Menu.Item value="people" onClick={() => go("/people")}>
              {administers ? phrase("app.peopleAndSignIn") : phrase("app.sessionsAndPassword")}
            </Menu.Item>
            <Menu.RadioItemGroup
              value={spoken()}
              onValueChange={({ value }) => pick(value as Language)}
            >
              <Menu.ItemGroupLabel>{phrase("app.language")}</Menu.ItemGroupLabel>
              {Object.entries(LANGUAGES).map(([tag, name]) => (
                <Menu.RadioItem key={tag} value={tag} lang={tag}>
                  {name}
                  <Menu.ItemIndicator />
                </Menu.RadioItem>
              ))}
            </Menu.RadioItemGroup>
            <Menu.Item value="sign-out" onClick={() => signOut.mutate()}>
              {phrase("app.signOut")}
            </Menu.Item>
          </Menu.Content>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}
