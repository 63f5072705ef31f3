import type { Words } from '../design/words.js';
import type { Edge } from './edges.js';

/** Why a step waits for another, in one sentence. */
export function reasonOf({ a, b, answer, rule, touching, on }: Edge, said: Words | undefined): string {
  const before =
    rule === 'touching-sections' || touching
      ? `before ${b.name} beside it is flooded`
      : on
        ? b.section
          ? `before ${b.name} is laid on it`
          : `before the ${b.name} on it`
        : `before ${b.name}`;
  if (said?.needs || said?.waitMin !== undefined) {
    const asked = [said.needs, said.waitMin === undefined ? undefined : `${said.waitMin} min old`].filter((x) => x !== undefined).join(' and ');
    return `${a.name} is ${asked} ${before}, as it was said of ${b.name}`;
  }
  if (answer.kind === 'state') {
    const [what, ...why] = answer.because.split(': ');
    const how = b.section ? '' : ` (${b.technique.label})`;
    return `${a.name} ${what} ${before}${how}${why.length > 0 ? `: ${why.join(': ')}` : ''}`;
  }
  return `${a.name} comes before ${b.name}: ${answer.because}`;
}

/** What happens where the wait is ignored. */
export function consequenceOf({ rule, b, answer }: Edge): string {
  switch (rule) {
    case 'touching-sections':
      return answer.kind === 'state' && answer.because.includes('contrast')
        ? 'the colours bleed into each other hours later'
        : 'the colours run together and no step shows';
    case 'second-layer':
      return 'no step shows and the layer sinks';
    case 'drawn-over':
      return 'what is behind would cover what is in front';
    case 'as-you-said':
      return 'not the order you wanted';
    case 'guide-first':
      return 'there is nothing to follow';
    case 'stencil-reach':
      return 'the stencil lies hollow and icing runs under it';
    case 'grains-reach':
      return 'grains stick where they are not wanted';
    case 'crackle-window':
      return b.technique.id === 'crackle' ? b.technique.tooEarly : 'pressing smears the wet neighbour';
    case 'airbrush-reach':
      return b.technique.leaves === 'mist' ? b.technique.tooEarly : 'wet mist runs into the icing';
    default:
      return b.technique.tooEarly;
  }
}
