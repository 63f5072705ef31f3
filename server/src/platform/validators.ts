import { msg } from '@kestfog/core/words';
import { applyDecorators } from '@nestjs/common';
import { Type } from 'class-transformer';
import { IsDefined, IsObject, registerDecorator, ValidateIf, ValidateNested } from 'class-validator';

/** Moments this program has to do with: what is beyond them is a slip of the keyboard. */
export const EARLIEST_MS = Date.UTC(2000, 0, 1);
export const LATEST_MS = Date.UTC(2100, 0, 1);

const MOMENT = /^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d(\.\d{1,9})?)?(Z|[+-]\d\d:?\d\d)$/;

/** A date that there is, with a time and its offset, as RFC 3339 writes it; between 2000 and 2100. */
export const IsMoment = () => (target: object, propertyName: string) =>
  registerDecorator({
    name: 'isMoment',
    target: target.constructor,
    propertyName,
    validator: {
      validate: (value: unknown) => {
        if (typeof value !== 'string' || !MOMENT.test(value)) return false;
        const ms = Date.parse(value);
        // 30 February would be read as 2 March.
        const [y, m, d] = value.slice(0, 10).split('-').map(Number) as [number, number, number];
        return ms >= EARLIEST_MS && ms < LATEST_MS && new Date(Date.UTC(y, m - 1, d)).getUTCDate() === d && m >= 1;
      },
      defaultMessage: () => msg`$property must be a moment such as 2026-06-05T14:00:00Z, between 2000 and 2100`,
    },
  });

/** May be left out; null is no value of it, as it is for `IsOptional`. */
export const IfGiven = () => ValidateIf((_, value) => value !== undefined);

/** One object that has to be there, looked into; a list is none. */
export const Part = (of: () => new () => object) => applyDecorators(IsDefined(), IsObject(), ValidateNested(), Type(of));
