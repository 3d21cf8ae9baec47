import { Box, Flex, Link as Anchor, NativeSelect, Text } from "@chakra-ui/react";
import { Link, useLocation } from "react-router";
import { useMay } from "../api/people";
import { useMode } from "../theme/mode";
import { Key, Quiet } from "../shared/parts";
import { You } from "./You";
import { addressOf, useGo, useWhere, VIEWS, viewAt } from "./where";
import { phrase } from "../words/phrase";

function MarkSign() {
  return (
    <Flex as="span" align="flex-end" gap="2px" h="16px" aria-hidden>
      <Box w="3px" h="14px" bg="ink" />
      <Box w="3px" h="10px" bg="ink" />
      <Box w="3px" h="6px" bg="ink" />
      <Box w="2px" h="18px" bg="loss" ml="2px" />
    </Flex>
  );
}

function Switcher() {
  const { all, inHand } = useWhere();
  const { go, pathname } = useGo();
  const here = viewAt(pathname);
  const view = here?.needs === "document" ? here : undefined;
  return (
    <NativeSelect.Root size="sm" width={{ base: "180px", xl: "216px" }} flexShrink="0">
      <NativeSelect.Field
        aria-label={phrase("app.projectAndDocument")}
        borderColor="hairline"
        fontWeight="600"
        value={inHand?.document.id ?? ""}
        onChange={(e) => go(`/${view?.path ?? "versions"}/${e.target.value}`)}
      >
        {all.length === 0 && <option value="">{phrase("app.noProjectYet")}</option>}
        {all.map(({ project, document }) => (
          <option key={document.id} value={document.id}>
            {project.name} / {document.name}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
  );
}

export function Bar({ onHelp }: { onHelp: () => void }) {
  const may = useMay();
  const { inHand } = useWhere();
  const { pathname } = useLocation();
  const [mode, setMode] = useMode();
  return (
    <Flex
      as="header"
      minH="44px"
      px="4"
      columnGap="3"
      align="center"
      wrap={{ base: "wrap", xl: "nowrap" }}
      borderBottom="1px solid"
      borderColor="hairline"
      flexShrink="0"
    >
      <Anchor asChild fontWeight="700" fontSize="15px" color="ink">
        <Link to="/overview">
          <MarkSign /> Kavrin
        </Link>
      </Anchor>
      <Switcher />
      <Flex
        as="nav"
        aria-label={phrase("app.views")}
        gap="0.5"
        flex={{ base: "1 0 100%", xl: "1" }}
        order={{ base: 1, xl: 0 }}
        minW="0"
        wrap={{ base: "wrap", xl: "nowrap" }}
      >
        {VIEWS.filter((view) => !("over" in view) || may("LOOK")).map((view) => {
          const here = viewAt(pathname) === view;
          return (
            <Anchor
              key={view.path}
              asChild
              px="2"
              py="1.5"
              borderRadius="4px"
              fontSize="13.5px"
              whiteSpace="nowrap"
              flexShrink="0"
              color={here ? "ink" : "muted"}
              bg={here ? "raised" : undefined}
              fontWeight={here ? "650" : "400"}
              _hover={{ bg: "raised" }}
            >
              <Link
                to={addressOf(view, inHand?.document.id)}
                aria-current={here ? "page" : undefined}
              >
                <Text as="span" fontSize="11px" color="muted" aria-hidden>
                  {view.digit}
                </Text>
                {view.name}
              </Link>
            </Anchor>
          );
        })}
      </Flex>
      <Quiet onClick={() => setMode(mode === "dark" ? "light" : "dark")}>
        {phrase(mode === "dark" ? "app.light" : "app.dark")}
      </Quiet>
      <Quiet onClick={onHelp} aria-label={phrase("app.keys")}>
        {phrase("app.keys")} <Key>?</Key>
      </Quiet>
      <You />
    </Flex>
  );
}
