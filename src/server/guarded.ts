import { finding } from '@/core/base';
import { hostsOf, turnedAway } from './gate';
import { refusal } from './http';

const hosts = hostsOf(process.env.INTONAZIONE_HOSTS);

/**
 * A route that answers only who may ask at all. Routes ask for themselves and not the proxy before them: what goes
 * through that is held in memory and cut at a length, and an archive is longer.
 */
export const guarded =
  <Given extends readonly unknown[]>(answer: (request: Request, ...given: Given) => Response | Promise<Response>) =>
  async (request: Request, ...given: Given): Promise<Response> => {
    const { method, headers, url } = request;
    const host = headers.get('host') ?? new URL(url).host;
    const why = turnedAway({ method, host, origin: headers.get('origin') }, hosts);
    return why === null ? answer(request, ...given) : refusal(finding('turned-away', 'error', why), 403);
  };
