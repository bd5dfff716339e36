import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import net from 'node:net';
import path from 'node:path';
import pg from 'pg';

/**
 * A server of a test's own, on a database of its own, behind a wire that can be cut. Everything here can be killed in
 * mid-edit.
 */
const ROOT = path.resolve(import.meta.dirname, '../..');

/** A wire to the database: connections through it can be cut and refused. */
class Wire {
  private server: net.Server | null = null;
  private readonly open = new Set<net.Socket>();
  port = 0;

  constructor(
    private readonly host: string,
    private readonly to: number,
  ) {}

  async up(): Promise<void> {
    this.server = net.createServer((socket) => {
      const far = net.connect(this.to, this.host);
      for (const [a, b] of [
        [socket, far],
        [far, socket],
      ] as const) {
        this.open.add(a);
        a.pipe(b);
        a.on('error', () => b.destroy());
        a.on('close', () => {
          this.open.delete(a);
          b.destroy();
        });
      }
    });
    await new Promise<void>((resolve, reject) => {
      this.server?.once('error', reject);
      this.server?.listen(this.port, '127.0.0.1', () => {
        this.port = (this.server?.address() as net.AddressInfo).port;
        resolve();
      });
    });
  }

  async cut(): Promise<void> {
    const closed = new Promise<void>((resolve) => (this.server ? this.server.close(() => resolve()) : resolve()));
    for (const socket of this.open) socket.destroy();
    await closed;
    this.server = null;
  }
}

export class OwnServer {
  private child: ChildProcess | null = null;
  private port = 0;
  readonly wire: Wire;
  private readonly database = `own_${randomUUID().replaceAll('-', '')}`;
  private readonly base: URL;

  constructor(url: string) {
    this.base = new URL(url);
    this.wire = new Wire(this.base.hostname, Number(this.base.port));
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async begin(): Promise<void> {
    const admin = new pg.Client({ connectionString: this.base.href });
    await admin.connect();
    await admin.query(`create database ${this.database}`);
    await admin.end();
    await this.wire.up();
    await this.run([process.execPath, '--import', 'tsx', 'src/server/db/migrate-main.ts', '--demo']);
    this.port = await free();
    await this.start();
  }

  private env(): NodeJS.ProcessEnv {
    const through = new URL(this.base.href);
    through.hostname = '127.0.0.1';
    through.port = String(this.wire.port);
    through.pathname = `/${this.database}`;
    return { ...process.env, DATABASE_URL: through.href, NEXT_TELEMETRY_DISABLED: '1' };
  }

  private run([command = '', ...args]: readonly string[]): Promise<void> {
    return new Promise((resolve, reject) => {
      const child = spawn(command, args, { cwd: ROOT, env: this.env(), stdio: ['ignore', 'ignore', 'pipe'] });
      let wording = '';
      child.stderr?.on('data', (one: Buffer) => (wording += one.toString()));
      child.on('exit', (code) =>
        code === 0 ? resolve() : reject(new Error(`${args.join(' ')} ended with ${code}: ${wording.slice(-800)}`)),
      );
    });
  }

  /** Starts the server on its port, again where it was killed. */
  async start(): Promise<void> {
    this.child = spawn(
      process.execPath,
      [path.join(ROOT, 'node_modules/next/dist/bin/next'), 'start', '-H', '127.0.0.1', '-p', String(this.port)],
      { cwd: ROOT, env: this.env(), stdio: 'ignore', detached: true },
    );
    for (let i = 0; i < 200; i++) {
      if (
        await fetch(`${this.url}/api/ready`).then(
          (made) => made.ok,
          () => false,
        )
      )
        return;
      await new Promise((r) => setTimeout(r, 150));
    }
    throw new Error('the test’s own server does not answer');
  }

  /** Kills the server at once, with whatever it was doing. */
  async kill(): Promise<void> {
    const { child } = this;
    this.child = null;
    if (!child?.pid) return;
    const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
    process.kill(-child.pid, 'SIGKILL');
    await gone;
  }

  async end(): Promise<void> {
    await this.kill();
    await this.wire.cut();
    const admin = new pg.Client({ connectionString: this.base.href });
    await admin.connect();
    await admin.query(`drop database if exists ${this.database} with (force)`);
    await admin.end();
  }
}

function free(): Promise<number> {
  return new Promise((resolve, reject) => {
    const server = net.createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as net.AddressInfo;
      server.close(() => resolve(port));
    });
  });
}
