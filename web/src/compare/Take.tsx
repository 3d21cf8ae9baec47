import { Box, CloseButton, Dialog, Flex, Portal, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { ComparisonView, Finding } from "../api/schema";
import { exportAddress, useKinds } from "../api/comparing";
import { Failure, Loading, Quiet } from "../shared/parts";
import { count } from "../shared/words";
import { Head } from "../shared/Head";
import { FileButton } from "../shared/FileButton";
import { phrase } from "../words/phrase";

/** What can be done with each kind of file, and what cannot. */
export function Kinds() {
  const [open, setOpen] = useState(false);
  const kinds = useKinds(open);
  return (
    <>
      <Quiet onClick={() => setOpen(true)}>{phrase("compare.whatIsRead")}</Quiet>
      <Dialog.Root
        open={open}
        onOpenChange={(e) => setOpen(e.open)}
        size="xl"
        scrollBehavior="inside"
      >
        <Portal>
          <Dialog.Backdrop />
          <Dialog.Positioner>
            <Dialog.Content bg="ground" color="ink" maxW="1150px">
              <Dialog.Header>
                <Dialog.Title>{phrase("compare.whatKavrinReadsOfEachKind")}</Dialog.Title>
              </Dialog.Header>
              <Dialog.CloseTrigger asChild>
                <CloseButton size="sm" />
              </Dialog.CloseTrigger>
              <Dialog.Body tabIndex={0}>
                <Failure error={kinds.error} />
                {kinds.isPending && <Loading what={phrase("compare.asking")} />}
                <Table.Root
                  size="sm"
                  fontSize="12px"
                  css={{ "& td, & th": { borderColor: "hairline", verticalAlign: "top" } }}
                >
                  <Head
                    columns={[
                      phrase("compare.kind"),
                      phrase("compare.read"),
                      phrase("compare.measured"),
                      phrase("compare.judgedBy"),
                      phrase("compare.notRead"),
                    ]}
                  />
                  <Table.Body>
                    {kinds.data?.map((k) => (
                      <Table.Row key={k.name} bg="transparent">
                        <Table.Cell minW="150px">
                          <Text fontWeight="600">{k.name}</Text>
                          <Text fontFamily="mono" color="muted" fontSize="11px">
                            {k.endings.map((e) => `.${e}`).join(" ")}
                          </Text>
                        </Table.Cell>
                        <Table.Cell>{k.read}</Table.Cell>
                        <Table.Cell>{k.measured}</Table.Cell>
                        <Table.Cell>{k.judged}</Table.Cell>
                        <Table.Cell color="muted">{k.lacks}</Table.Cell>
                      </Table.Row>
                    ))}
                  </Table.Body>
                </Table.Root>
              </Dialog.Body>
            </Dialog.Content>
          </Dialog.Positioner>
        </Portal>
      </Dialog.Root>
    </>
  );
}

/** The comparison as a file, or on paper. */
export function Take(props: {
  document: string;
  a: string;
  b: string;
  tolerance: number | undefined;
  onPrint: () => void;
}) {
  const { document, a, b, tolerance } = props;
  return (
    <Flex gap="1" align="center">
      <Quiet asChild>
        <a href={exportAddress(document, a, b, "JSON", tolerance)} download>
          {phrase("compare.asJson")}
        </a>
      </Quiet>
      <Quiet asChild>
        <a href={exportAddress(document, a, b, "CSV", tolerance)} download>
          {phrase("compare.asATable")}
        </a>
      </Quiet>
      <Quiet onClick={props.onPrint}>{phrase("compare.onPaper")}</Quiet>
    </Flex>
  );
}

const noted = (findings: Finding[]) =>
  findings.filter((f) => f.severity === "NOTE" && f.code !== "with-holes").map((f) => f.words);

/** What makes no file less whole: that both have is not worth a line. */
function Noticed({ notes }: { notes: { letter: string; words: string[] }[] }) {
  const other = (letter: string) => notes.find((n) => n.letter !== letter)?.words ?? [];
  const own = notes.flatMap(({ letter, words }) =>
    words.filter((w) => !other(letter).includes(w)).map((w) => ({ letter, words: w })),
  );
  if (own.length === 0) return null;
  return (
    <Box asChild px="4" py="1" fontSize="12px" color="muted">
      <details>
        <summary>
          {phrase("compare.noticed", { otherThings: count(own.length, "other thing") })}
        </summary>
        {own.map((n) => (
          <Text key={n.letter + n.words}>
            {n.letter}: {n.words}
          </Text>
        ))}
      </details>
    </Box>
  );
}

/** What could not be read, so that nobody takes what is missing here for gone. */
export function Unread({ comparison }: { comparison: ComparisonView }) {
  const sides = [
    { letter: "A", read: comparison.readA },
    { letter: "B", read: comparison.readB },
  ];
  return (
    <>
      {sides.map(({ letter, read }) => {
        const worst = read.findings.filter((f) => f.severity !== "NOTE");
        const first = worst[0];
        return (
          first && (
            <Box key={letter} px="4" py="1" fontSize="13px" color="caution" role="status">
              ▲ {letter}{" "}
              {first.severity === "DAMAGED"
                ? phrase("compare.isDamaged")
                : phrase("compare.isDoubtful")}
              : {first.words}{" "}
              {first.severity === "DAMAGED" && phrase("compare.whatCouldBeReadOfIt")}
              {worst.length > 1 &&
                ` ${phrase("compare.moreLikeThat", { worst: worst.length - 1 })}`}
            </Box>
          )
        );
      })}
      <Noticed notes={sides.map(({ letter, read }) => ({ letter, words: noted(read.findings) }))} />
    </>
  );
}

/** A button to choose a file that may lie anywhere. */
export function FromElsewhere({ busy, onFile }: { busy: boolean; onFile: (file: File) => void }) {
  return (
    <FileButton name={phrase("compare.compareAWithAFileFrom")} busy={busy} onFile={onFile}>
      {phrase("compare.aFileFromElsewhere")}
    </FileButton>
  );
}
