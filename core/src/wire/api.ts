import type { BenchTouch } from '../bench/bench-touches.js';
import type { StoredEvent } from '../bench/event.js';
import type { PaceOf } from '../calibration/pace.js';
import type { ToldTouch } from '../calibration/touch.js';
import type { Design } from '../design/design.js';
import type { DesignDocument } from '../design/document/document.js';
import type { FanSetUp } from '../drying/fan.js';
import type { Factors, Margin } from '../drying/uncertainty.js';
import type { Decorator, OrderFile, OrderTray, StayPin } from '../formats/order.js';
import type { Plan } from '../formats/plan.js';
import type { EggWhite, OwnRecipe } from '../icing/recipe.js';
import type { KnownAllergens } from '../labelling/allergens.js';
import type { AccountSummary, RunAccount } from '../notebook/account.js';
import type { Across } from '../notebook/across.js';
import type { LessonAbout } from '../notebook/lessons.js';
import type { RecordingKind } from '../notebook/recordings.js';
import type { CartonSize, Prices } from '../planning/order-cost.js';
import type { School } from '../steps/school.js';
import type { Tip } from '../steps/tips.js';
import type { StockUse } from '../stock/stock.js';
import type { StockThing } from '../stock/supplies.js';

/** What travels between page and server; the server's DTO classes implement these, so drift does not compile. */
/** A version of a design, so far as it is edited: what its drawing is asked for by, and kept by. */
export interface DrawingRef {
  readonly designId: string;
  readonly version: number;
  /** how many edits it has: the newest version can still get more */
  readonly edits: number;
}
/** A design in a list, without its drawing. */
export interface DesignSummary {
  readonly id: string;
  readonly name: string;
  readonly rounds: number;
  readonly sections: number;
  readonly handsOnS: number;
  readonly version: number;
  readonly edits: number;
  readonly transfer: boolean;
  /** why it cannot be read any more, in one sentence; null where it can */
  readonly problem: string | null;
}
/** A part of a long list. */
export interface Page<T> {
  readonly items: readonly T[];
  /** in all parts together */
  readonly total: number;
  /** counted from 0 */
  readonly page: number;
  readonly pages: number;
}
/** A design with everything needed to work on it. */
export interface DesignView extends DesignSummary {
  readonly drawing: Design;
  readonly document: DesignDocument;
  /** whether some order was planned with this version, so that the next change makes a new one */
  readonly pinned: boolean;
}
export interface SchoolView extends School {
  readonly preset: boolean;
  /** counts the changes of one's own; 0 for a preset */
  readonly revision: number;
}
export interface NewDesign {
  readonly name: string;
  readonly svg: string;
}

export interface OrderAir {
  readonly tempC: number;
  readonly humidityPct: number;
  readonly airMPerS: number;
}
export interface OrderFan {
  readonly places: number;
  readonly airMPerS: number;
}
export interface OrderDehydrator {
  readonly places: number;
  readonly tempC: number;
  readonly airMPerS: number;
}
export interface OrderDesignInput {
  readonly designId: string;
  readonly count: number;
  /** decorated besides, against breakage */
  readonly spares: number;
  /** left out, the version is the newest */
  readonly version?: number;
}
/** What the user insists on; times are ISO. */
export type PinInput =
  | { readonly kind: 'tray-first'; readonly tray: string }
  | { readonly kind: 'not-before'; readonly tray: string; readonly at: string }
  | StayPin
  | { readonly kind: 'away'; readonly from: string; readonly to: string; readonly label: string; readonly who: string | null };
export interface OrderInput {
  readonly name: string;
  readonly designs: readonly OrderDesignInput[];
  readonly trays: readonly OrderTray[];
  /** room for a hand between cookies on trays sized in millimetres */
  readonly handGapMm: number;
  /** ISO times */
  readonly openingHours: readonly { readonly from: string; readonly to: string }[];
  readonly air: OrderAir;
  readonly fan: OrderFan | null;
  readonly dehydrator: OrderDehydrator | null;
  readonly decorators: readonly Decorator[];
  readonly openBags: number | null;
  readonly pins: readonly PinInput[];
  readonly notes: string;
  /** the order on whose bench, trays and plan this one is worked; null where it has its own */
  readonly hostId: string | null;
  /** the order its pieces are made for, where it is one of transfers */
  readonly transfersForId: string | null;
  /** id of a preset, or of a school of one's own */
  readonly school: string;
  readonly margin: Margin;
  readonly packBy: string;
  /** colours that share another's bag */
  readonly merges: readonly { readonly from: string; readonly to: string }[];
}
/** What was really mixed and counted for one bag of an order. */
export interface BagRecord {
  readonly colour: string;
  /** intended count, reference seconds; with the colour it names the bag */
  readonly seconds: number;
  /** null until it is mixed */
  readonly mixedG: number | null;
  /** null until it is counted */
  readonly countedS: number | null;
  /** the user's own word for it */
  readonly word: string | null;
  /** counts its changes; of what is sent, the one it goes on from: left out, whatever is there is changed */
  readonly revision?: number;
}
export interface OrderDesignView {
  readonly designId: string;
  readonly count: number;
  readonly spares: number;
  /** the order it belongs to, where it is a guest on this bench */
  readonly guestOf: { readonly id: string; readonly name: string; readonly packBy: string; readonly pieces: boolean } | null;
  /** the version this order keeps, its edits, and the newest version there is */
  readonly version: number;
  readonly edits: number;
  readonly latest: number;
  readonly name: string;
  /** the drawing of the version it keeps */
  readonly drawing: Design;
}
export interface OrderView extends Omit<OrderInput, 'designs'> {
  readonly designs: readonly OrderDesignView[];
  readonly schoolUsed: School;
  /** the orders that make its pieces */
  readonly transfers: readonly TransfersView[];
  /** name of the order its pieces are for */
  readonly transfersForName: string | null;
  /** name of the order it is a guest of */
  readonly hostName: string | null;
  readonly id: string;
  readonly createdAt: string;
  /** counts its changes: a change says which one it goes on from */
  readonly revision: number;
  readonly plan: OrderPlanSummary | null;
  readonly run: RunSummary | null;
  readonly bags: readonly BagRecord[];
}
/** An order in a list. */
export interface OrderSummary {
  readonly id: string;
  readonly name: string;
  readonly packBy: string;
  readonly cookies: number;
  readonly trays: number;
  /** its own designs, then those of its guests */
  readonly designs: readonly (DrawingRef & { readonly name: string; readonly count: number })[];
  readonly hostId: string | null;
  readonly hostName: string | null;
  readonly plan: OrderPlanSummary | null;
  readonly run: RunSummary | null;
}
/** An order whose bench another could share. */
export interface HostChoice {
  readonly id: string;
  readonly name: string;
}
/** The plan of an order that counts, and whether the order changed since. */
export interface OrderPlanSummary {
  readonly id: string;
  readonly createdAt: string;
  readonly endsAt: string;
  readonly startsAt: string;
  readonly handsOnS: number;
  /** by how much the latest cookies miss the time they are due; 0 where all fits */
  readonly lateS: number;
  readonly stale: boolean;
}
/** An order of pieces as the order they are for sees it. */
export interface TransfersView {
  readonly id: string;
  readonly name: string;
  /** pieces that are due, and the spares besides */
  readonly pieces: number;
  readonly spares: number;
  /** worked on this order's own bench */
  readonly shared: boolean;
  /** when they can be lifted: as planned, or as it was done; null while it has no plan */
  readonly liftAt: string | null;
}
/** A run in a list: one that goes on, or one that lies in the trash. */
export interface RunListItem {
  readonly id: string;
  readonly orderId: string;
  readonly orderName: string;
  readonly startedAt: string;
  readonly done: number;
  readonly total: number;
}
export interface RunSummary {
  readonly id: string;
  readonly startedAt: string;
  readonly done: number;
  readonly total: number;
  readonly finished: boolean;
}
export interface PlanView {
  readonly id: string;
  readonly orderId: string;
  readonly orderName: string;
  readonly createdAt: string;
  readonly inputHash: string;
  readonly plan: Plan;
  readonly serverNowMs: number;
}
export interface RunView {
  readonly id: string;
  readonly orderId: string;
  readonly orderName: string;
  readonly plan: Plan;
  readonly events: readonly StoredEvent[];
  readonly serverNowMs: number;
}
export interface ApiError {
  readonly code: string;
  /** one clear sentence that names the place and the cure */
  readonly message: string;
  /** what is there now, where a change went against somebody else's */
  readonly now?: unknown;
}
/** Whether the server can work; it answers 503 where it cannot. */
export interface HealthView extends ClockView {
  readonly ok: true;
  /** share of its main thread's time that was taken since it was last asked */
  readonly busy: number;
}
export interface ClockView {
  readonly nowMs: number;
  readonly speed: number;
}

/** How this decorator counts, the recipe, and what stands in the kitchen; one for the installation. */
export interface Kitchen {
  readonly countsBy: 'line' | 'ribbon' | 'trail';
  /** what they count for the icing they call flood: their count × 15 / this are reference seconds */
  readonly floodCount: number;
  readonly eggWhite: EggWhite;
  readonly recipe: string;
  /** what the base is mixed of; null for the usual one of its egg white */
  readonly mix: OwnRecipe | null;
  /** the air it usually has, where no sensor says better */
  readonly air: OrderAir;
  readonly tips: readonly Tip[];
  readonly fan: FanSetUp;
  readonly dehydrator: { readonly tempC: number; readonly airMPerS: number };
  readonly prices: Prices;
  /** what cookies are packed in */
  readonly carton: CartonSize;
  /** what a new order begins with besides its designs and times; null until it is said */
  readonly usual: UsualBench | null;
  /** when someone is usually at the bench, Monday first, seven days; null for a day off, or until it is said */
  readonly week: readonly (HoursOfDay | null)[] | null;
  /** what this kitchen calls colours, by "#rrggbb", where it has a name of its own */
  readonly colourNames: Readonly<Record<string, string>>;
  /** what the cookie itself is made of, for labels; empty until it is said */
  readonly bakedOf: string;
  /** what of it all a label must name */
  readonly allergens: KnownAllergens;
  /** what offers say of taxes, in the kitchen's own words */
  readonly taxLine: string;
}
/** A thing the kitchen counts, and how much of it there is. */
export interface StockItem extends StockThing {
  readonly amount: number;
  /** how often it was changed: a change says which one it goes on from */
  readonly revision: number;
}
/** What a run used, to be taken off. */
export interface NewStockBooking {
  readonly runId: string;
  readonly lines: readonly Pick<StockUse, 'item' | 'amount'>[];
}
export interface StockBooking {
  readonly runId: string;
  readonly at: string;
  readonly orderName: string;
  readonly lines: readonly StockUse[];
}
/** What is in the house by what the kitchen counts, and what the latest runs took of it. */
export interface StockView {
  readonly items: readonly StockItem[];
  readonly bookings: readonly StockBooking[];
}
/** From and to on the clock of the kitchen, "14:00" to "22:00" of the same day. */
export interface HoursOfDay {
  readonly from: string;
  readonly to: string;
}
/** What does not change from order to order: trays, hands, what dries faster, the way of working. */
export type UsualBench = Pick<OrderInput, 'trays' | 'handGapMm' | 'fan' | 'dehydrator' | 'decorators' | 'openBags' | 'school' | 'margin'>;
/** The kitchen, and how often it was changed: a change says which one it goes on from. */
export interface KitchenView extends Kitchen {
  readonly revision: number;
}
/** An order as the planner takes it, with its drawings in order. */
export interface OrderFileView {
  readonly order: OrderFile;
  readonly drawings: readonly Design[];
}

/** A weighed thinning step of a recipe, kept to learn its curve. */
export interface NewThinningStep {
  readonly recipe: string;
  readonly grams: number;
  readonly addedG: number;
  readonly fromS: number;
  readonly toS: number;
}
export interface ThinningStepView extends NewThinningStep {
  readonly id: string;
  readonly at: string;
}

/** What a finger found: not yet at one time, reached at another; at least one of them. */
export type NewTouch = ToldTouch;
export interface TouchView extends NewTouch {
  readonly id: string;
  readonly at: string;
}

/** What was found at the bench of a finished run, or of one whose order is gone. */
export interface BenchTouchView extends BenchTouch {
  readonly runId: string;
  readonly orderName: string;
  /** the whole run is left out of the learning */
  readonly leftOut: boolean;
}

/** A finished run in the notebook. */
export interface NotebookRun {
  readonly runId: string;
  readonly orderName: string;
  /** null where the order was deleted */
  readonly orderId: string | null;
  /** the whole run is left out of the learning */
  readonly leftOut: boolean;
  /** an evening of the demo that nobody worked */
  readonly simulated: boolean;
  readonly summary: AccountSummary;
}
export interface NotebookRunView extends NotebookRun {
  readonly account: RunAccount;
  /** icing that was put by from its order, g */
  readonly putByG: number;
  readonly lessons: readonly LessonView[];
  readonly recordings: readonly RecordingView[];
  /** moments that were put right */
  readonly corrections: readonly { readonly eventId: string; readonly atMs: number; readonly wasMs: number }[];
}
/** What a month's runs taught by themselves. */
export interface NotebookMonth {
  /** "2026-06" */
  readonly month: string;
  readonly runs: number;
  readonly looks: number;
  readonly factors: Factors;
  readonly paces: PacesView;
}
export interface NotebookAcross extends Across {
  /** there is no real run yet: the demo's simulated ones are shown */
  readonly simulated: boolean;
  readonly months: readonly NotebookMonth[];
}
/** What is to be done otherwise the next time; it comes back with its design and step. */
export interface NewLesson extends LessonAbout {
  readonly text: string;
  readonly runId: string | null;
}
export interface LessonView extends NewLesson {
  readonly id: string;
  readonly at: string;
}

/** What becomes of a row that is there already and not the same: nothing at all is taken in, it stays, or the archive's takes its place. */
export const clashWays = ['refuse', 'keep', 'replace'] as const;
export type ClashWay = (typeof clashWays)[number];
/** What came of an archive. */
export interface TakenIn {
  readonly rows: number;
  readonly files: number;
  /** rows that were there already, the same */
  readonly already: number;
  readonly kept: number;
  readonly replaced: number;
}

/** A photo or spoken words, named by the device that took them; what it is about is named as a lesson's is. */
export interface NewRecording extends LessonAbout {
  readonly id: string;
  readonly runId: string;
  readonly kind: RecordingKind;
  /** when it was taken, by the run's clock, ms since 1970 */
  readonly atMs: number;
  /** the file, base64 */
  readonly base64: string;
}
/** The same as it is listed: the file is asked for by itself. */
export interface RecordingView extends Omit<NewRecording, 'base64'> {
  /** media type of the file */
  readonly type: string;
  readonly sizeBytes: number;
}

/** How quick each pair of hands is, by name and kind of motion. */
export type PacesView = Readonly<Record<string, PaceOf>>;

/** How a colour was mixed into one recipe: parts of gel colours, how much of them, and a note. */
export interface ColourMix {
  readonly recipe: string;
  readonly colour: string;
  /** gel colour in 100 g of icing, g; null where nobody weighed it */
  readonly gelGPer100G: number | null;
  readonly parts: readonly { readonly gel: string; readonly parts: number }[];
  readonly note: string;
  /** counts its changes; of what is sent, the one it goes on from: left out, whatever is there is changed */
  readonly revision?: number;
}

/** Icing left over, offered to the next order. */
export interface NewLeftover {
  readonly colour: string;
  readonly seconds: number;
  readonly grams: number;
  readonly orderId: string | null;
}
/** Left-over icing that went into a bag of a later order: it is subtracted there, and gone from what is left. */
export interface LeftoverUse {
  readonly orderId: string;
  readonly colour: string;
  readonly seconds: number;
  readonly grams: number;
}
export interface LeftoverView extends NewLeftover {
  readonly id: string;
  readonly at: string;
  readonly uses: readonly LeftoverUse[];
  readonly frozen: boolean;
  /** when it was last kneaded or stirred again; null where it was not */
  readonly kneadedAt: string | null;
}
export interface LeftoverKept {
  readonly frozen: boolean;
  /** it was kneaded or stirred just now */
  readonly kneaded: boolean;
}

export const climateScenarios = ['steady', 'rainy-evening', 'oven-on'] as const;
export type ClimateScenario = (typeof climateScenarios)[number];
/** What the climate sensor says; the one that ships is simulated and says which weather it plays. */
export interface ClimateReading {
  readonly atMs: number;
  readonly tempC: number;
  readonly humidityPct: number;
  readonly simulated: { readonly scenario: ClimateScenario } | null;
}

/** How Kestfog is reached: only on its own machine, or in the kitchen, where each device is let in once. */
export type LanView =
  | { readonly lan: false }
  | {
      readonly lan: true;
      readonly known: boolean;
      /** as a browser types it; this and what follows is shown to devices that are known */
      readonly address?: string;
      /** where a device that does not trust the kitchen's certificate yet is told how to; null where there is none */
      readonly door?: string | null;
      /** of the kitchen's certificate, SHA-256 in pairs */
      readonly fingerprint?: string | null;
      readonly passphrase?: string;
      /** the way in as a QR code, SVG */
      readonly qr?: string;
    };
/** A device that was let in. */
export interface DeviceView {
  readonly id: string;
  readonly name: string;
  /** ISO 8601 */
  readonly letInAt: string;
  readonly seenAt: string;
  /** the one that asks */
  readonly isThis: boolean;
}
/** What devices type from now on. */
export interface NewPassphrase {
  readonly passphrase: string;
}

/** Where calendar programs ask for all open orders; the path has a secret in it. */
export interface CalendarAddress {
  readonly path: string;
}
