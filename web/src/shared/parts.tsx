import { Box, Button, Flex, Spinner, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { Problem } from "../api/client";
import { Allowed, type Needed } from "./Allowed";
import { VERDICT } from "./words";
import { phrase } from "../words/phrase";

/** A path or an address, whole, with a button that copies it. */
export function PathText({
  path,
  size = "12px",
  what = "path",
}: {
  path: string;
  size?: string;
  what?: "path" | "link";
}) {
  const [copied, setCopied] = useState(false);
  return (
    <Flex as="span" display="inline-flex" align="baseline" gap="1.5" minW="0" flexWrap="wrap">
      <Text as="span" fontFamily="mono" fontSize={size} color="muted" wordBreak="break-all">
        {path}
      </Text>
      <Quiet
        onClick={() => {
          void navigator.clipboard.writeText(path).then(() => setCopied(true));
        }}
        aria-label={phrase(what === "link" ? "shared.copyLinkOf" : "shared.copyPathOf", { path })}
      >
        {phrase(copied ? "shared.copied" : what === "link" ? "shared.copyLink" : "shared.copyPath")}
      </Quiet>
    </Flex>
  );
}

/** What a button does needs a role: where one does not hold it there is no button. */
type ButtonProps = React.ComponentProps<typeof Button> & Partial<Needed>;

/**
 * A button that can be busy. It says so and does nothing meanwhile, but is not disabled: whoever is
 * at a button that becomes disabled has lost the place.
 */
function Pressed({ needs, over, ...props }: ButtonProps) {
  return needs ? (
    <Allowed needs={needs} over={over}>
      <Pressable {...props} />
    </Allowed>
  ) : (
    <Pressable {...props} />
  );
}

function Pressable({ loading, onClick, children, ...rest }: React.ComponentProps<typeof Button>) {
  if (!loading) {
    return (
      <Button onClick={onClick} {...rest}>
        {children}
      </Button>
    );
  }
  return (
    <Button {...rest} aria-busy aria-disabled onClick={(e) => e.preventDefault()}>
      <Spinner size="xs" position="absolute" />
      <Box as="span" display="inline-flex" alignItems="center" gap="inherit" opacity={0}>
        {children}
      </Box>
    </Button>
  );
}

/** The one thing to do here. */
export function Main(props: ButtonProps) {
  return (
    <Pressed
      size="sm"
      bg="ink"
      color="ground"
      borderRadius="4px"
      fontWeight="600"
      _hover={{ opacity: 0.88 }}
      {...props}
    />
  );
}

/** Something else that can be done. */
export function Side(props: ButtonProps) {
  return (
    <Pressed
      size="sm"
      variant="outline"
      borderColor="hairline"
      color="ink"
      borderRadius="4px"
      _hover={{ bg: "raised" }}
      {...props}
    />
  );
}

/** Small and beside a text. */
export function Quiet(props: ButtonProps) {
  return (
    <Pressed
      size="2xs"
      variant="outline"
      borderColor="hairline"
      color="muted"
      fontWeight="400"
      borderRadius="3px"
      _hover={{ bg: "raised" }}
      {...props}
    />
  );
}

export function Key({ children }: { children: string }) {
  return (
    <Box
      as="kbd"
      fontFamily="mono"
      fontSize="11px"
      px="1"
      border="1px solid"
      borderColor="currentColor"
      borderRadius="3px"
      opacity={0.75}
      aria-hidden
    >
      {children}
    </Box>
  );
}

/** Sentence first, path or explanation under it, figures and buttons to the right. */
export function PageHead(props: { title: ReactNode; under?: ReactNode; children?: ReactNode }) {
  return (
    <Flex
      px="4"
      py="2.5"
      columnGap="6"
      rowGap="2"
      align="center"
      wrap={{ base: "wrap", lg: "nowrap" }}
      flexShrink="0"
      minH="68px"
      borderBottom="1px solid"
      borderColor="hairline"
    >
      <Box flex={{ base: "1 0 100%", lg: "1" }} minW="0">
        <Text as="h1" fontSize="20px" fontWeight="650" lineHeight="1.25">
          {props.title}
        </Text>
        <Box color="muted" fontSize="13px" mt="0.5">
          {props.under}
        </Box>
      </Box>
      {props.children}
    </Flex>
  );
}

export function Figure({ value, label }: { value: ReactNode; label: ReactNode }) {
  return (
    <Box>
      <Text fontSize="18px" fontWeight="650" lineHeight="1.2" fontVariantNumeric="tabular-nums">
        {value}
      </Text>
      <Text fontSize="12px" color="muted">
        {label}
      </Text>
    </Box>
  );
}

const TONE = { loss: "lossWash", caution: "cautionWash", fir: "firWash" } as const;

/** A stretch of text that asks for attention; the rule at its side is its sign besides the hue. */
export function Notice(props: {
  tone: keyof typeof TONE;
  children: ReactNode;
  role?: "alert" | "status";
}) {
  return (
    <Box
      role={props.role}
      bg={TONE[props.tone]}
      borderLeft="3px solid"
      borderColor={props.tone}
      px="3"
      py="2"
      fontSize="13px"
    >
      {props.children}
    </Box>
  );
}

export function Failure({ error }: { error: unknown }) {
  if (!error) return null;
  const words =
    error instanceof Error ? error.message : phrase("shared.somethingWentWrongNothingWasChanged");
  const code = error instanceof Problem && error.status > 0 ? ` (${error.status})` : "";
  return (
    <Notice tone="loss" role="alert">
      {words}
      <Text as="span" color="muted">
        {code}
      </Text>
    </Notice>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <Flex align="center" gap="2" p="4" color="muted" role="status">
      <Spinner size="sm" /> {what}
    </Flex>
  );
}

/** What a page says before there is anything to show. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box p="8" maxW="640px">
      <Text as="h2" fontSize="18px" fontWeight="650" mb="2">
        {title}
      </Text>
      {children}
    </Box>
  );
}

/** Health in words; the mark before it tells the same without colour. */
export function Health({ verdict, reason }: { verdict: string; reason?: string | undefined }) {
  const mark = { INTACT: "■", NO_FAULT: "⊔", DOUBTFUL: "▨", DAMAGED: "✕" }[verdict] ?? "□";
  const tone = { DAMAGED: "loss", DOUBTFUL: "caution" }[verdict] ?? "ink";
  return (
    <Text as="span" color={tone} fontWeight={tone === "ink" ? "400" : "600"} title={reason}>
      <Box as="span" aria-hidden fontSize="11px" mr="1">
        {mark}
      </Box>
      {VERDICT[verdict] ?? verdict}
    </Text>
  );
}
