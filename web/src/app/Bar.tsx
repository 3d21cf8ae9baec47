import { Box, Flex, Link as Anchor, NativeSelect, Text } from "@chakra-ui/react";
import { Link, useLocation } from "react-router";
import { useSession } from "../api/queries";
import { useMode } from "../theme/mode";
import { Key, Quiet } from "../shared/parts";
import { addressOf, useGo, useWhere, VIEWS } from "./where";

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
  const view = VIEWS.find((v) => pathname.startsWith(`/${v.path}`) && v.needs === "document");
  return (
    <NativeSelect.Root size="sm" width="270px" flexShrink="0">
      <NativeSelect.Field
        aria-label="Project and document"
        borderColor="hairline"
        fontWeight="600"
        value={inHand?.document.id ?? ""}
        onChange={(e) => go(`/${view?.path ?? "trail"}/${e.target.value}`)}
      >
        {all.length === 0 && <option value="">no project yet</option>}
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
  const session = useSession();
  const { inHand } = useWhere();
  const { pathname } = useLocation();
  const [mode, setMode] = useMode();
  return (
    <Flex
      as="header"
      h="44px"
      px="4"
      gap="4"
      align="center"
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
      <Flex as="nav" aria-label="Views" gap="0.5" flex="1" minW="0" overflow="hidden">
        {VIEWS.map((view) => {
          const here = pathname.startsWith(`/${view.path}`);
          return (
            <Anchor
              key={view.path}
              asChild
              px="2.5"
              py="1.5"
              borderRadius="4px"
              fontSize="13.5px"
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
        {mode === "dark" ? "light" : "dark"}
      </Quiet>
      <Quiet onClick={onHelp} aria-label="Keys">
        Keys <Key>?</Key>
      </Quiet>
      <Anchor asChild fontSize="13px" whiteSpace="nowrap" color="ink" textDecoration="underline">
        <Link to="/telling" title="What you are told, and how">
          {session.data?.name}
        </Link>
      </Anchor>
    </Flex>
  );
}
