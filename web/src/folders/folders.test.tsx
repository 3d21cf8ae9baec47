// @vitest-environment happy-dom
import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { answering, asked, open, problem } from "../testing/app";
import { ago, folder } from "../testing/fixtures";
import { inAWorld } from "../testing/world";

inAWorld();

const row = async (path: string) => (await screen.findByText(path)).closest("tr") as HTMLElement;

test("no folder yet says what a folder is", async () => {
  answering({ "/api/folders": [], "/api/search": { strays: [], snapshots: [] }, "/api/room": [] });
  open("/folders");
  expect(await screen.findByText("No folders yet")).toBeDefined();
});

test("a backup folder says what it holds, the bin apart, by project", async () => {
  const keep = folder(1, {
    path: "/mnt/keep",
    role: "RECOVERY",
    copies: 110,
    bytes: 97_700_000,
    binBytes: 10_800_000,
    holdings: [
      { project: "Carriage", copies: 34, bytes: 93_700_000, binBytes: 10_800_000 },
      { project: "Winding gear", copies: 76, bytes: 4_000_000, binBytes: 0 },
    ],
  });
  answering({
    "/api/folders": [keep, folder(2)],
    "/api/search": { strays: [], snapshots: [] },
    "/api/room": [],
  });
  open("/folders");
  const kept = await row("/mnt/keep");
  expect(within(kept).getByText("110, 97.7 MB")).toBeDefined();
  expect(within(kept).getByText("and 10.8 MB in the bin")).toBeDefined();
  expect(within(kept).getByText("Winding gear: 76, 4.0 MB")).toBeDefined();
  expect((await screen.findByRole("heading", { level: 1 })).textContent).toBe(
    "All folders are reachable",
  );
});

test("a folder that is away is told by a word, and its room is unknown", async () => {
  answering({
    "/api/folders": [folder(1, { here: false }), folder(2)],
    "/api/search": { strays: [], snapshots: [] },
    "/api/room": [],
  });
  open("/folders");
  const away = await row("/srv/tarnwick/line-1");
  expect(within(away).getByText("away")).toBeDefined();
  expect(within(away).getByText("unknown")).toBeDefined();
  expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("1 folder away");
});

test("each disk says what takes its room, and what going without it would free", async () => {
  answering({
    "/api/folders": [folder(1, { path: "/mnt/keep", role: "RECOVERY" })],
    "/api/search": { strays: [], snapshots: [] },
    "/api/room": [
      {
        disk: "/dev/sdb1",
        folders: ["/mnt/keep", "/mnt/keep/more"],
        free: 20_000_000_000,
        capacity: 500_000_000_000,
        fullAt: ago(-600),
        grownPerHour: 2_000_000_000,
        held: 93_700_000,
        lines: [
          {
            kind: "BACKUPS",
            project: "Carriage",
            files: 34,
            bytes: 93_700_000,
            frees: 90_900_000,
            reaches: ago(9000),
            thenReaches: ago(20),
          },
          { kind: "RECORDS", files: 1, bytes: 9_000_000, frees: 0 },
        ],
      },
    ],
  });
  open("/folders");
  expect(await screen.findByText("Carriage: backups")).toBeDefined();
  expect(screen.getByText("90.9 MB")).toBeDefined();
  expect(screen.getByText("nothing")).toBeDefined();
  expect(screen.getByText(/2.0 GB an hour taken by everybody/)).toBeDefined();
  expect(screen.getByText(/^▲ Full/)).toBeDefined();
});

test("what a disk's limit would drop is shown before it holds", async () => {
  answering({
    "/api/folders": [folder(1, { path: "/mnt/keep", role: "RECOVERY" })],
    "/api/search": { strays: [], snapshots: [] },
    "/api/room": [
      {
        disk: "/dev/sdb1",
        folders: ["/mnt/keep"],
        free: 20_000_000_000,
        capacity: 500_000_000_000,
        limit: 8_000_000_000,
        held: 7_100_000_000,
        lines: [],
      },
    ],
    "POST /api/room/limit/preview": {
      taken: 7_100_000_000,
      drops: 12,
      dropBytes: 3_100_000_000,
      stays: 5_400_000_000,
      digest: "as-shown",
    },
    "PUT /api/room/limit": { id: "job", kind: "hold-room", state: "DONE", ended: ago(0) },
  });
  const { user } = open("/folders");
  expect(await screen.findByText(/All backups on it within 8.0 GB, 7.1 GB taken/)).toBeDefined();
  await user.click(
    screen.getByRole("button", {
      name: "Change the limit of what backups take on the disk of /mnt/keep",
    }),
  );
  const field = await screen.findByRole("spinbutton", {
    name: "Gigabytes for all backups on this disk",
  });
  await user.clear(field);
  await user.type(field, "5");
  expect(await screen.findByText(/12 versions of 3.1 GB would go into the bin/)).toBeDefined();
  expect(await screen.findByText(/5.4 GB stay all the same, past the limit/)).toBeDefined();
  await waitFor(() =>
    expect(asked).toContainEqual({
      what: "POST /api/room/limit/preview",
      sent: { disk: "/dev/sdb1", bytes: 5_000_000_000 },
    }),
  );
  await user.click(await screen.findByRole("button", { name: "Hold it: 12 versions to the bin" }));
  await waitFor(() =>
    expect(asked).toContainEqual({
      what: "PUT /api/room/limit",
      sent: { disk: "/dev/sdb1", bytes: 5_000_000_000, digest: "as-shown" },
    }),
  );
});

test("folders that cannot be asked for are told in the service's words", async () => {
  answering({
    "/api/folders": () => problem(503, "records", "The records are away. Nothing was changed."),
    "/api/search": { strays: [], snapshots: [] },
    "/api/room": [],
  });
  open("/folders");
  expect(await screen.findByText("The records are away. Nothing was changed.")).toBeDefined();
});

test("snapshots of the disk are proposed, and looked into with one press", async () => {
  const snapshots = "/srv/tarnwick/.snapshots";
  answering({
    "/api/folders": [folder(1)],
    "/api/search": { strays: [], snapshots: [snapshots] },
    "/api/room": [],
    "POST /api/search/folders": {},
  });
  const { user } = open("/folders");
  expect(await screen.findByText(snapshots)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Look into them too" }));
  await waitFor(() =>
    expect(asked).toContainEqual({ what: "POST /api/search/folders", sent: { path: snapshots } }),
  );
});
