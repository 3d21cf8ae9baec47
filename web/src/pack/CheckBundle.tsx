import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { BagReport, BundledFile } from "../api/schema";
import { useArchiveHolds, useBundleCheck, useBundleContents, useImportFile } from "../api/bundling";
import { useSession } from "../api/queries";
import { useGo } from "../app/where";
import { Failure, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { BringArchiveBack } from "./BringArchiveBack";
import { phrase } from "../words/phrase";

function Named({ what, paths }: { what: string; paths: string[] }) {
  if (paths.length === 0) return null;
  return (
    <Text color="loss" wordBreak="break-all">
      {what}: {paths.slice(0, 8).join(", ")}
      {paths.length > 8 && ` ${phrase("pack.andMore", { paths: paths.length - 8 })}`}
    </Text>
  );
}

function Report({ report }: { report: BagReport }) {
  return (
    <Box role="status" mt="2" data-testid="bag">
      <Text fontWeight="650" color={report.valid ? "fir" : "loss"}>
        {report.valid
          ? phrase("pack.completeAndValidEveryDigestIs", {
              files: count(report.payload.length, "file"),
            })
          : report.complete
            ? phrase("pack.completeButNotAsItWas")
            : phrase("pack.notComplete")}
      </Text>
      <Named what={phrase("pack.altered")} paths={report.altered} />
      <Named what={phrase("pack.missing")} paths={report.missing} />
      <Named what={phrase("pack.extra")} paths={report.extra} />
      {report.faults.map((f) => (
        <Text key={f} color="loss" wordBreak="break-word">
          {f}
        </Text>
      ))}
    </Box>
  );
}

/** One file of the bundle: whether a trail here has it, else where it could go. */
function Held(props: { file: BundledFile; busy: boolean; onTake: (document: string) => void }) {
  const { file } = props;
  const session = useSession();
  const now = useNow(30_000);
  const zone = session.data?.zone ?? "UTC";
  const when = file.work ? `, ${moment(file.work, zone, now)}` : "";
  return (
    <Box as="li" borderTop="1px solid" borderColor="hairline" py="1" listStyleType="none">
      <Text fontFamily="mono" fontSize="12px" wordBreak="break-all">
        {file.path}
        <Text as="span" fontFamily="body" color="muted">
          {" "}
          {size(file.size)}
        </Text>
      </Text>
      {file.holderPath ? (
        <Text color="fir">
          {phrase("pack.amongTheVersionsOf", { holderPath: file.holderPath, when })}
        </Text>
      ) : file.fits ? (
        <Flex gap="2" align="baseline">
          <Text flex="1">
            {phrase("pack.notAmongTheVersionsOf", { fitsPath: file.fitsPath, when })}
          </Text>
          <Side size="xs" loading={props.busy} onClick={() => file.fits && props.onTake(file.fits)}>
            {phrase("pack.importIt")}
          </Side>
        </Flex>
      ) : (
        <Text color="muted">{phrase("pack.noDocumentOfThatNameIs")}</Text>
      )}
    </Box>
  );
}

/** Reads a bundle, from Kavrin or from any other writer of bags, and takes in what it holds. */
export function CheckBundle() {
  const [folder, setFolder] = useState("");
  const { go } = useGo();
  const check = useBundleCheck();
  const contents = useBundleContents();
  const take = useImportFile();
  const archive = useArchiveHolds();
  const bag = folder.trim();
  const files = take.data ?? contents.data;
  return (
    <Box borderTop="1px solid" borderColor="hairline" pt="3" fontSize="13px">
      <Text mb="1">{phrase("pack.gotABundleKavrinsOrOf")}</Text>
      <Flex
        as="form"
        gap="1.5"
        onSubmit={(e) => {
          e.preventDefault();
          take.reset();
          contents.reset();
          archive.reset();
          check.mutate(bag, {
            onSuccess: () => {
              contents.mutate(bag);
              archive.mutate(bag);
            },
          });
        }}
      >
        <Input
          size="xs"
          fontFamily="mono"
          aria-label={phrase("pack.folderOfTheBundle")}
          placeholder="/whole/path/of/a/bundle"
          value={folder}
          onChange={(e) => setFolder(e.target.value)}
        />
        <Side size="xs" type="submit" loading={check.isPending} disabled={!bag.startsWith("/")}>
          {phrase("pack.check")}
        </Side>
      </Flex>
      <Failure error={check.error ?? contents.error ?? archive.error ?? take.error} />
      {check.data && <Report report={check.data} />}
      {archive.data && archive.data.files > 0 && (
        <BringArchiveBack folder={bag} files={archive.data.files} />
      )}
      {files && archive.data?.files === 0 && (
        <>
          <Box as="ul" mt="2" data-testid="bundled">
            {files.map((file) => (
              <Held
                key={file.path}
                file={file}
                busy={take.isPending}
                onTake={(document) => take.mutate({ folder: bag, path: file.path, document })}
              />
            ))}
          </Box>
          {!bag.toLowerCase().endsWith(".zip") && (
            <Side
              size="xs"
              mt="2"
              onClick={() => go(`/start?folder=${encodeURIComponent(`${bag}/data`)}`)}
            >
              {phrase("pack.workOnFromHereMakeIt")}
            </Side>
          )}
        </>
      )}
    </Box>
  );
}
