import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hostsOf, nameOf, policyOf, turnedAway } from './gate';

const hosts = hostsOf('riffs.example, Studio.example');
const asked = (method: string, host: string | null, origin: string | null) =>
  turnedAway({ method, host, origin }, hosts);

describe('who may ask', () => {
  it('is asked for by a name of one’s own, with any port', () => {
    for (const host of ['localhost:3000', '127.0.0.1:8080', '[::1]:3000', 'riffs.example', 'STUDIO.example:443'])
      expect(asked('GET', host, null), host).toBeNull();
    for (const host of ['evil.example', 'riffs.example.evil.example', 'localhost@evil.example', '', 'a b', null])
      expect(asked('GET', host, null), String(host)).toContain('does not answer to that name');
  });

  it('may act only from a page of this very server', () => {
    expect(asked('POST', 'riffs.example', 'https://riffs.example')).toBeNull();
    expect(asked('PUT', 'localhost:3000', 'http://localhost:3000')).toBeNull();
    // A program that is no browser sends no Origin, and has no visitor's rights to lend.
    expect(asked('POST', 'localhost:3000', null)).toBeNull();
    for (const origin of [
      'https://evil.example',
      'null',
      'http://localhost:4000',
      'https://riffs.example.evil.example',
    ])
      expect(asked('POST', 'riffs.example', origin), origin).toContain('another site');
    expect(asked('GET', 'riffs.example', 'https://evil.example')).toBeNull();
  });

  it('is told for any header without stumbling', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.string({ unit: 'binary' }), (host, origin) => {
        const why = asked('POST', host, origin);
        expect(why === null || why.length > 10).toBe(true);
        if (why === null) expect(hosts).toContain(nameOf(host));
      }),
    );
  });
});

describe('the policy of a page', () => {
  it('lets only scripts run that carry its nonce or are known by their fingerprints', () => {
    const scripts = policyOf('abc', ['sha256-one', 'sha256-two'])
      .split('; ')
      .find((part) => part.startsWith('script-src'));
    expect(scripts).toBe("script-src 'self' 'nonce-abc' 'sha256-one' 'sha256-two' 'wasm-unsafe-eval'");
  });
});
