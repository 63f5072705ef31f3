import type { MigrationInterface } from 'typeorm';
import { Init1795494926972 } from './1795494926972-init.js';
import { Bags1795499720985 } from './1795499720985-bags.js';
import { IcingPlace1795563383229 } from './1795563383229-icing-place.js';
import { DesignsPlace1795566161302 } from './1795566161302-designs-place.js';
import { WholeBench1795574400000 } from './1795574400000-whole-bench.js';
import { Hands1795898400000 } from './1795898400000-hands.js';
import { LearnedRuns1795900000000 } from './1795900000000-learned-runs.js';
import { Looks1795903200000 } from './1795903200000-looks.js';
import { VisitPaces1795906800000 } from './1795906800000-visit-paces.js';
import { LearnedFacts1795910400000 } from './1795910400000-learned-facts.js';
import { FullNames1795914000000 } from './1795914000000-full-names.js';
import { Projections1795996800000 } from './1795996800000-projections.js';
import { Trash1796083200000 } from './1796083200000-trash.js';
import { TrashOfAll1796169600000 } from './1796169600000-trash-of-all.js';
import { Stock1796256000000 } from './1796256000000-stock.js';
import { Notebook1796342400000 } from './1796342400000-notebook.js';
import { WaitsKnown1796428800000 } from './1796428800000-waits-known.js';
import { LeftOverKept1796515200000 } from './1796515200000-left-over-kept.js';
import { LessonSchool1796601600000 } from './1796601600000-lesson-school.js';
import { Recordings1796688000000 } from './1796688000000-recordings.js';
import { RunRecipe1796774400000 } from './1796774400000-run-recipe.js';
import { Devices1796860800000 } from './1796860800000-devices.js';
import { PutBack1796947200000 } from './1796947200000-put-back.js';

/** In order; each runs once, in a transaction of its own. */
export const migrations: (new () => MigrationInterface)[] = [
  Init1795494926972,
  Bags1795499720985,
  IcingPlace1795563383229,
  DesignsPlace1795566161302,
  WholeBench1795574400000,
  Hands1795898400000,
  LearnedRuns1795900000000,
  Looks1795903200000,
  VisitPaces1795906800000,
  LearnedFacts1795910400000,
  FullNames1795914000000,
  Projections1795996800000,
  Trash1796083200000,
  TrashOfAll1796169600000,
  Stock1796256000000,
  Notebook1796342400000,
  WaitsKnown1796428800000,
  LeftOverKept1796515200000,
  LessonSchool1796601600000,
  Recordings1796688000000,
  RunRecipe1796774400000,
  Devices1796860800000,
  PutBack1796947200000,
];
