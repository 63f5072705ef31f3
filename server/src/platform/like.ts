import { ILike } from 'typeorm';

/** What has `q` in it, whatever its case; signs that mean something to the database are taken as they are. */
export const likePattern = (q: string) => ILike(`%${q.replace(/[\\%_]/g, '\\$&')}%`);
