import { describe, expect, it, vi } from 'vitest';
import { guarded } from './guarded';

// Nothing behind a route may be asked for here: who is turned away reaches neither the database nor the actor.
const asked = vi.fn(() => {
  throw new Error('asked for');
});
vi.mock('@/server/context', () => ({ db: () => asked(), currentActor: () => asked() }));

type Handler = (request: Request, context: { readonly params: Promise<Record<string, string>> }) => Promise<Response>;
const ROUTES = import.meta.glob('../app/api/**/route.ts');
const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'];

describe('every route', () => {
  it('turns away who asks by a foreign name, or changes something from another site', async () => {
    expect(Object.keys(ROUTES).length).toBeGreaterThan(15);
    for (const [file, load] of Object.entries(ROUTES)) {
      const handlers = Object.entries((await load()) as Record<string, Handler>).filter(([name]) =>
        METHODS.includes(name),
      );
      expect(handlers.length, file).toBeGreaterThan(0);
      for (const [method, handler] of handlers) {
        const ask = (headers: Record<string, string>) =>
          handler(new Request('http://x/api', { method, headers }), { params: Promise.resolve({}) });
        const byName = await ask({ host: 'elsewhere.example' });
        expect([byName.status, file]).toEqual([403, file]);
        expect(await byName.json()).toMatchObject({ error: { code: 'turned-away' } });
        if (method === 'GET' || method === 'HEAD') continue;
        expect((await ask({ host: 'x', origin: 'http://elsewhere.example' })).status, file).toBe(403);
      }
    }
    expect(asked).not.toHaveBeenCalled();
  });

  it('answers its own', async () => {
    const route = guarded((request: Request, more: string) => Response.json([request.method, more]));
    const ask = (method: string, headers: Record<string, string>) =>
      route(new Request('http://x/api', { method, headers }), 'given');
    const own: readonly Record<string, string>[] = [{}, { host: 'x' }, { host: 'localhost:3000' }];
    for (const headers of own) expect(await (await ask('GET', headers)).json()).toEqual(['GET', 'given']);
    expect((await ask('POST', { host: 'localhost:3000', origin: 'http://localhost:3000' })).status).toBe(200);
    expect((await ask('POST', { host: 'localhost:3000', origin: 'http://localhost:4000' })).status).toBe(403);
  });
});
