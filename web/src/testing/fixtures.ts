import type {
  ProgramView,
  StateView,
  OwnNotificationsView,
  TellingView,
  VersionsView,
  Incident,
  Job,
  Preview,
  ReceiptView,
  AdviceAnswer,
  CandidateView,
  PriceView,
  DeskView,
  DocumentLine,
  Exposure,
  OpenNow,
  OverviewView,
  PlaceLine,
  Plan,
  PlanAnswer,
  Project,
  ProjectLine,
  SessionView,
} from "../api/schema";

/** The moment at which the tests' world stands. */
export const NOW = Date.parse("2031-03-03T14:31:00Z");
export const ago = (minutes: number) => new Date(NOW - minutes * 60_000).toISOString();

const why = { formula: "T", filled: "T = 10 min", source: "by definition, no source" };

export const SESSION: SessionView = {
  name: "Ilse Quarn",
  roots: ["/srv/tarnwick"],
  zone: "UTC",
  everywhere: "ADMINISTER",
  rights: {},
};

/** Nobody has it open. */
export const CLOSED: OpenNow = {
  state: "CLOSED",
  evidence: ["Tarn Modeller does not run"],
  mayHoldWork: false,
};

/** Open in a program of this machine. */
export const OPEN: OpenNow = {
  state: "HERE",
  evidence: ["modeller (process 4711, ilse) has the file open"],
  mayHoldWork: true,
};

export const exposure = (changes: Partial<Exposure> = {}): Exposure => ({
  at: ago(0),
  quiet: true,
  open: CLOSED,
  acceptedSeconds: 1800,
  ...changes,
});

export const document = (n: number, changes: Partial<DocumentLine> = {}): DocumentLine => ({
  id: `00000000-0000-7000-8000-${String(n).padStart(12, "0")}`,
  name: `carriage-${String(n).padStart(2, "0")}.glb`,
  path: `/srv/tarnwick/carriage/carriage-${n}.glb`,
  exposure: exposure(),
  live: { awaited: false, everSaved: true, modified: ago(20), present: true, size: 2_900_000 },
  newestCopy: ago(20),
  states: 12,
  copies: 10,
  bytes: 29_000_000,
  ...changes,
});

export const project = (changes: Partial<ProjectLine> = {}): ProjectLine => ({
  id: "00000000-0000-7000-9000-000000000001",
  name: "Carriage",
  folder: "/srv/tarnwick/carriage",
  recovery: "/mnt/keep",
  program: "Tarn Modeller",
  programRuns: false,
  workHere: true,
  recoveryHere: true,
  intervalSeconds: 600,
  everySave: false,
  everySteps: 0,
  keep: 24,
  documents: [document(1)],
  linked: 0,
  drifts: [],
  proven: { asks: false, at: ago(3000), words: "Tested." },
  cautions: [],
  ...changes,
});

export const overview = (...projects: ProjectLine[]): OverviewView => ({
  projects,
  disagreements: [],
});

export const PLAN: Plan = {
  interval: "PT10M",
  everySave: false,
  everySteps: 0,
  quiet: "PT2S",
  hardLimit: "PT2M",
  accepted: "PT30M",
  kindsOff: [],
  reminder: "PT0S",
  keep: {
    newest: 24,
    hourly: "PT72H",
    daily: "PT720H",
    weekly: "PT0S",
    ring: 0,
    room: 0,
  },
  handsOff: { process: "", file: "", growing: false, limit: "PT0S" },
  light: { pictures: false, entries: [], fullEvery: 10 },
  loss: { percent: 25, entities: 5, days: 14 },
  programCopies: { newest: 6, hourly: "PT24H" },
  compacting: { on: false, newest: 5, every: 50 },
  projectRoom: 0,
  proving: { askAfter: "PT2160H", unattended: "PT168H" },
  reckoning: {},
  runs: { restarts: 5, everyResult: 10, setupEachTime: false },
};

export const PROJECT: Project = {
  id: project().id,
  name: "Carriage",
  folder: "/srv/tarnwick/carriage",
  recovery: "/mnt/keep",
  recoveries: [{ path: "/mnt/keep", here: true, leaving: false, copies: 34 }],
  rule: ["*.glb"],
  program: { name: "Tarn Modeller", process: "tarn-modeller", leftovers: [], ownFiles: [] },
  plan: PLAN,
  exceptions: {},
  version: 7,
  changed: ago(600),
  changedBy: "Ilse Quarn",
};

const past = (mean: string, worst: string) => ({ mean, most: worst, worst, over: "PT14H31M" });

export const planAnswer = (changes: Partial<PlanAnswer> = {}): PlanAnswer => ({
  figures: {
    programDies: "PT10M",
    programDiesWhy: why,
    fileLost: "PT22M",
    meanFileLost: "PT11M",
    fileLostWhy: why,
    reachFrom: "PT720H",
    reachTo: "PT720H",
    reachWhy: why,
    footprint: 372_500_000,
    footprintWhy: why,
    programs: { room: 87_000_000, loadPerHour: 17_400_000, why },
    bin: 100_000_000,
    loadPerHour: 17_700_000,
    loadWhy: why,
    warnings: [],
  },
  past: {
    otherDisk: false,
    elsewhere: false,
    programDies: past("PT4M", "PT9M"),
    fileLost: past("PT24M", "PT52M"),
  },
  drops: 0,
  dropBytes: 0,
  inputs: { size: 2_900_000, copyTime: "PT0.15S", documents: 1, places: 1, rates: {} },
  recovery: {
    path: "/mnt/keep",
    exists: true,
    writable: true,
    holdsCopies: true,
    free: 81_200_000_000,
    disk: "ext4",
    faults: [],
    cautions: [],
    differences: [],
  },
  reminder: "PT30M",
  ...changes,
});

export const folder = (n: number, changes: Partial<PlaceLine> = {}): PlaceLine => ({
  id: `00000000-0000-7000-a000-${String(n).padStart(12, "0")}`,
  path: `/srv/tarnwick/line-${n}`,
  role: "WORK",
  here: true,
  free: 81_200_000_000,
  disk: "ext4",
  cautions: [],
  differences: [],
  serves: ["Carriage"],
  copies: 0,
  bytes: 0,
  binBytes: 0,
  holdings: [],
  limits: [],
  hours: { bytesPerSecond: 0 },
  clockAheadSeconds: 0,
  ...changes,
});

export const recovery = (changes: Partial<DeskView> = {}): DeskView => ({
  crash: ago(2),
  candidates: [],
  older: 0,
  places: 3,
  files: 44,
  lookedAt: [],
  ...changes,
});

export const ADVICE: AdviceAnswer = {
  advice: {
    curve: [],
    price: { bytes: 2_900_000, files: 3, said: false, stall: "PT0.15S" },
    rate: { crashes: 0, known: false, said: false, worked: "PT14H31M" },
    rateWhy: why,
    why,
  },
  spacing: {
    points: [60, 600, 3600].map((s) => ({
      interval: `PT${s}S`,
      worst: `PT${s + 900}S`,
      usual: `PT${s / 2 + 450}S`,
      busy: 0.15 / s,
      bytesPerHour: (2_900_000 * 3600) / s,
    })),
    longest: "PT15M",
    why,
  },
  replays: [],
  sittings: [],
  unwatched: 0,
};

export const PRICE: PriceView = {
  largest: "carriage-01.glb",
  size: 2_900_000,
  places: [
    {
      path: "/mnt/keep",
      copying: "PT0.15S",
      aDay: 40_700_000,
      free: 81_200_000_000,
      here: true,
      copies: 34,
    },
  ],
};

export const candidate = (n: number, changes: Partial<CandidateView> = {}): CandidateView => ({
  rank: n,
  state: `v${n}`,
  content: `00000000-0000-7000-c000-${String(n).padStart(12, "0")}`,
  kind: "AUTOSAVE",
  path: `/srv/tarnwick/carriage/.drafts/carriage-01~${n}.tmp`,
  verdict: "INTACT",
  words: `Intact · ${n * 10 + 1} min before the crash`,
  work: ago(n * 10 + 3),
  size: 2_900_000,
  ...changes,
});

export const incident = (changes: Partial<Incident> = {}): Incident => ({
  id: "00000000-0000-7000-b000-000000000001",
  project: project().id,
  documents: [document(1).id],
  evidence: ["carriage-01.glb: its lock file was left behind"],
  from: ago(4),
  to: ago(2),
  kind: "crash",
  open: true,
  ...changes,
});

export const restorePreview = (changes: Partial<Preview> = {}): Preview => ({
  digest: "9f2c",
  mode: "REPLACE",
  source: candidate(1).path,
  target: document(1).path,
  aside: "/srv/tarnwick/carriage/carriage-01 put aside.glb",
  bytes: 2_900_000,
  free: 81_200_000_000,
  fits: true,
  seconds: 0.4,
  open: CLOSED,
  sourceKind: "AUTOSAVE",
  leftOut: [],
  cannotKeep: [],
  copiesPresent: false,
  ...changes,
});

export const receipt = (changes: Partial<ReceiptView["receipt"]> = {}): ReceiptView => ({
  id: "00000000-0000-7000-d000-000000000001",
  made: ago(1),
  receipt: {
    document: document(1).id,
    mode: "REPLACE",
    state: "v1",
    content: "2900000-00112233445566778899aabbccddeeff",
    source: candidate(1).path,
    sourceKind: "AUTOSAVE",
    target: document(1).path,
    aside: "/srv/tarnwick/carriage/carriage-01 put aside.glb",
    verdict: "INTACT",
    told: "",
    who: "Ilse Quarn",
    ...changes,
  },
});

/** A job that is over, with what came of it. */
export const job = (result: object): Job => ({
  id: "00000000-0000-7000-e000-000000000001",
  attempt: 1,
  cancelled: false,
  created: ago(1),
  ended: ago(0),
  key: "restore",
  kind: "restore",
  person: "Ilse Quarn",
  state: "DONE",
  result: result as Job["result"],
});

export const version = (n: number, changes: Partial<StateView> = {}): StateView => ({
  id: `v${n}`,
  content: candidate(n).content,
  workFrom: ago(n * 10),
  workTo: ago(n * 10),
  size: 2_900_000,
  verdict: "INTACT",
  findings: [],
  links: [],
  marks: [],
  keptBecause: "newest 24",
  contradictions: [],
  orderKnown: true,
  toldBy: "the file system",
  copies: [
    {
      id: `00000000-0000-7000-a000-${String(n).padStart(12, "0")}`,
      kind: "CAPTURE",
      originKind: "LIVE",
      compacted: false,
      path: `/mnt/keep/carriage/carriage-01.${String(n).padStart(6, "0")}.glb`,
      originPath: document(1).path,
      sequence: n,
      size: 2_900_000,
      leftOut: [],
      cause: "timed",
      settled: true,
      modified: ago(n * 10),
      since: ago(n * 10),
    },
  ],
  ...changes,
});

export const versions = (
  states: StateView[],
  changes: Partial<VersionsView> = {},
): VersionsView => ({
  document: document(1).id,
  project: project().id,
  projectName: "Carriage",
  name: document(1).name,
  path: document(1).path,
  count: { states: states.length, copies: states.length, bytes: 29_000_000, folders: 1 },
  older: [],
  states,
  activity: [],
  watched: [],
  bin: [],
  elsewhere: [],
  lookedAt: [],
  chain: [],
  exposure: exposure(),
  ...changes,
});

export const PROGRAM: ProgramView = {
  digest: "77aa",
  file: "/home/ilse/.tarn/modeller.cfg",
  linked: true,
  mayPut: true,
  onlyRead: false,
  off: true,
  runs: false,
  lines: [
    {
      key: "autosave",
      meaning: "ENABLED",
      found: "no",
      put: "yes",
      standing: "OFF",
      words: "autosave is off, wanted: on",
    },
    {
      key: "minutes",
      meaning: "INTERVAL",
      found: "10",
      put: "5",
      standing: "DIFFERS",
      words: "time between its autosaves is 10 min, wanted: at most 5 min",
    },
  ],
};

export const OWN_NOTIFICATIONS: OwnNotificationsView = {
  own: { page: true, browser: false, silent: [] },
  canMail: true,
  kinds: [
    { kind: "CRASH", words: "a program crashed" },
    { kind: "REMINDER", words: "something was not saved for long" },
  ],
};

export const NOTIFICATIONS: TellingView = {
  hasPassword: false,
  kinds: [
    { kind: "CRASH", words: "a program crashed" },
    { kind: "REMINDER", words: "something was not saved for long" },
  ],
  needsPage: true,
  outcomes: [],
  telling: { browser: false, desktop: false, page: true, silent: [] },
};
