import { IsUUID } from 'class-validator';
import { IfGiven } from './validators.js';

/** What a device names itself when it makes something, so that the same sent twice, its answer lost, is made once. */
export class NamedDto {
  @IfGiven() @IsUUID() id?: string;
}

const ALREADY_THERE = '23505';

/** Makes something once: where its name is known already, it was made before. */
export async function once(id: string | undefined, isThere: (id: string) => Promise<boolean>, make: () => Promise<unknown>): Promise<void> {
  if (id !== undefined && (await isThere(id))) return;
  try {
    await make();
  } catch (error) {
    // Sent twice at the same moment.
    const code = (error as { driverError?: { code?: string } } | null)?.driverError?.code;
    if (code !== ALREADY_THERE || id === undefined || !(await isThere(id))) throw error;
  }
}
