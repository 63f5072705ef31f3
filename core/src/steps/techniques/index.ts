import type { TechniqueId } from '../step.js';
import { drag } from './drag.js';
import { flood } from './flood.js';
import { outline } from './outline.js';
import { pack } from './pack.js';
import { pen } from './pen.js';
import { pipedLine } from './piped-line.js';
import { preparation } from './preparation.js';
import type { TechniqueDefinition } from './technique.js';
import { wetDrop } from './wet-drop.js';
import { wetLine } from './wet-line.js';

export const techniques: readonly TechniqueDefinition[] = [preparation, outline, flood, wetDrop, wetLine, drag, pipedLine, pen, pack];

export function techniqueById(id: TechniqueId): TechniqueDefinition {
  const found = techniques.find((t) => t.id === id);
  if (!found) throw new Error(`no technique "${id}"`);
  return found;
}
