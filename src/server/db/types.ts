import type {
  ClipId,
  FitId,
  OriginalId,
  HandoutId,
  InstrumentId,
  LinkId,
  PieceId,
  RefusedId,
  RequestId,
  SeriesId,
} from '../ids';
import type { ClipDocument } from '@/core/hearing';
import type { ColumnType, Generated } from 'kysely';
import type { Edit, StepKind } from '@/core/edit';
import type { Piece, Player } from '@/core/score';
import type { CostTable } from '@/core/hand';
import type { RackInstrument, Setup, Tuning } from '@/core/instrument';
import type { Handout, LinkKind, Request, Series } from '@/core/desk';
import type { Schools } from '@/core/schools';
import type { Anchor, WordKind } from '@/core/search';
import type { PlacedPhrase } from '@/core/place';
import type { ReadingKind } from '@/core/tuner';
import type { FitResult, FitState, KeptAlternative, KeptSample } from '../learning-types';

/** JSON columns go in as text and come out parsed. */
type Json<T> = ColumnType<T, string, string>;
type Stamp = ColumnType<Date, Date | string | undefined, Date | string>;

export interface StudioTable {
  id: string;
  name: string;
  created_at: Stamp;
}

export interface PieceTable {
  id: string;
  studio_id: string;
  title: string;
  /** Part names, instruments and tunings in words, for search and the shelf. */
  summary: string;
  document: Json<Piece>;
  revision: number;
  /** The revision `document` is of: the steps after it are laid over it on reading. */
  document_revision: Generated<number>;
  created_at: Stamp;
  worked_at: Stamp;
  deleted_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

export interface EditTable {
  piece_id: PieceId;
  studio_id: string;
  /** The revision this step made. */
  revision: number;
  /** The version of the document its edits are written for. */
  version: number;
  kind: StepKind;
  edit: Json<Edit>;
  inverse: Json<Edit>;
  what: string;
  /** The save it came in, so that a repeated save is known. */
  save_id: string;
  made_at: Stamp;
  /** Too old to be taken back: its words are kept, what it changed is not. */
  condensed: Generated<boolean>;
}

/** A save that came too late: the version it would have made is kept here. */
export interface RefusedSaveTable {
  id: RefusedId;
  studio_id: string;
  piece_id: PieceId;
  base_revision: number;
  found_revision: number;
  document: Json<Piece>;
  refused_at: Stamp;
  settled_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

export interface InstrumentTable {
  id: string;
  studio_id: string;
  document: Json<RackInstrument>;
  revision: number;
  changed_at: Stamp;
  deleted_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

export interface InstrumentChangeTable {
  instrument_id: InstrumentId;
  studio_id: string;
  revision: number;
  what: string;
  document: Json<RackInstrument>;
  made_at: Stamp;
}

export interface TuningTable {
  id: string;
  studio_id: string;
  document: Json<Tuning>;
  changed_at: Stamp;
  deleted_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

export interface TunerReadingTable {
  id: Generated<string>;
  studio_id: string;
  instrument_id: InstrumentId;
  string: number;
  kind: ReadingKind;
  capo: number;
  cents: number;
  read_at: Stamp;
}

export interface SettingTable {
  studio_id: string;
  schools: Json<Schools>;
  changed_at: Stamp;
}

export interface PlayerTable {
  id: string;
  studio_id: string;
  document: Json<Player>;
  changed_at: Stamp;
  deleted_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

export interface CostTableTable {
  studio_id: string;
  version: number;
  name: string;
  weights: Json<CostTable>;
  made_at: Stamp;
}

/** A phrase with the places its instructor chose, and what else there was for each. */
export interface ChoiceTable {
  studio_id: string;
  piece_id: PieceId;
  riff_id: string;
  /** Id of the phrase's first event. */
  phrase: string;
  sample: Json<KeptSample>;
  alternatives: Json<readonly KeptAlternative[]>;
  notes: number;
  made_at: Stamp;
}

export interface PlacedPhraseTable {
  studio_id: string;
  piece_id: PieceId;
  riff_id: string;
  riff_name: string;
  tokens: string;
  document: Json<PlacedPhrase>;
}

export interface FitTable {
  id: FitId;
  studio_id: string;
  state: FitState;
  progress: number;
  result: Json<FitResult | null>;
  asked_at: Stamp;
}

/** A recording: what is known of it; its bytes lie in chunks. */
export interface ClipTable {
  id: ClipId;
  studio_id: string;
  piece_id: PieceId;
  type: string;
  bytes: number;
  /** How many chunks have come in; all of them when `state` is kept. */
  chunks: number;
  state: 'arriving' | 'kept';
  /** Known once it was decoded in the browser. */
  seconds: number | null;
  rate: number | null;
  channels: number | null;
  overview: Buffer | null;
  document: Json<ClipDocument>;
  revision: number;
  made_at: Stamp;
  deleted_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

export interface ClipChunkTable {
  clip_id: ClipId;
  studio_id: string;
  number: number;
  bytes: Buffer;
}

/** A file a piece was made from. */
export interface OriginalTable {
  id: OriginalId;
  studio_id: string;
  piece_id: PieceId;
  name: string;
  type: string;
  /** SHA-256 of the bytes: the same file is kept once with a piece. */
  mark: string;
  size: number;
  bytes: Buffer;
  made_at: Stamp;
}

export interface SeriesTable {
  id: SeriesId;
  studio_id: string;
  document: Json<Series>;
  changed_at: Stamp;
  deleted_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

/** What was asked for and promised. */
export interface RequestTable {
  id: RequestId;
  studio_id: string;
  piece_id: PieceId | null;
  series_id: SeriesId | null;
  document: Json<Request>;
  revision: Generated<number>;
  changed_at: Stamp;
  deleted_at: ColumnType<Date | null, Date | string | null | undefined, Date | string | null>;
}

export interface PieceLinkTable {
  id: LinkId;
  studio_id: string;
  piece_id: PieceId;
  other_id: PieceId;
  kind: LinkKind;
  made_at: Stamp;
}

export interface HandoutTable {
  id: HandoutId;
  studio_id: string;
  piece_id: PieceId;
  document: Json<Handout>;
  made_at: Stamp;
}

/** One thing said in a piece or a request, and where. */
export interface SaidTable {
  id: Generated<string>;
  studio_id: string;
  piece_id: PieceId | null;
  request_id: RequestId | null;
  kind: WordKind;
  words: string;
  place: Json<SaidPlace>;
}
export interface SaidPlace {
  readonly part?: string;
  readonly riff?: string;
  readonly section?: string;
}

/** A riff as search sees it. */
export interface RiffMusicTable {
  studio_id: string;
  piece_id: PieceId;
  part_id: string;
  riff_id: string;
  riff_name: string;
  part_name: string;
  high: string;
  low: string;
  shape: string;
  rhythm: string;
  anchors: Json<readonly Anchor[]>;
  setup: Json<Setup>;
}

export interface Database {
  original: OriginalTable;
  series: SeriesTable;
  request: RequestTable;
  piece_link: PieceLinkTable;
  handout: HandoutTable;
  said: SaidTable;
  riff_music: RiffMusicTable;
  clip: ClipTable;
  clip_chunk: ClipChunkTable;
  player: PlayerTable;
  cost_table: CostTableTable;
  choice: ChoiceTable;
  placed_phrase: PlacedPhraseTable;
  fit: FitTable;
  studio: StudioTable;
  piece: PieceTable;
  edit: EditTable;
  refused_save: RefusedSaveTable;
  instrument: InstrumentTable;
  instrument_change: InstrumentChangeTable;
  tuning: TuningTable;
  tuner_reading: TunerReadingTable;
  setting: SettingTable;
}
