import { msg } from '@kestfog/core/words';
import { type ExecutionContext, Inject, Injectable } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import {
  InjectThrottlerOptions,
  InjectThrottlerStorage,
  ThrottlerGuard,
  type ThrottlerLimitDetail,
  type ThrottlerModuleOptions,
  type ThrottlerStorage,
} from '@nestjs/throttler';
import { CONFIG, type Config } from './config.js';
import { Refusal } from './errors.js';

const MINUTE_MS = 60_000;
/** Requests of one address in a minute: a bench asks some thirty, one that sends an evening's taps after an outage some hundreds. *Assumed.* */
export const RATES = [{ ttl: MINUTE_MS, limit: 3_000 }];
/** Guesses at the passphrase. */
export const ASKING = { default: { ttl: MINUTE_MS, limit: 10, blockDuration: MINUTE_MS } };

/**
 * How often one address may ask, on the kitchen's network; a machine that asks itself is let be. It comes before what a request is worked
 * on, and counts in each process on its own.
 */
@Injectable()
export class Rates extends ThrottlerGuard {
  constructor(
    @InjectThrottlerOptions() options: ThrottlerModuleOptions,
    @InjectThrottlerStorage() storage: ThrottlerStorage,
    reflector: Reflector,
    @Inject(CONFIG) private readonly config: Config,
  ) {
    super(options, storage, reflector);
  }

  protected override async shouldSkip(): Promise<boolean> {
    return this.config.lan === null;
  }
  protected override async throwThrottlingException(_: ExecutionContext, { limit }: ThrottlerLimitDetail): Promise<void> {
    const isAsking = limit === ASKING.default.limit;
    throw new Refusal(
      429,
      isAsking ? 'too-many-tries' : 'busy',
      isAsking
        ? msg`That was tried too often: wait a minute, and read the passphrase off the screen Kestfog was started on.`
        : msg`This device asks too much at once: it is asked again in a moment.`,
    );
  }
}
