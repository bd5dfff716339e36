import { describe, expect, it } from 'vitest';
import { Turns } from './turns';

const after = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

describe('turns', () => {
  it('go one after the other for a key, in order, and side by side for others', async () => {
    const turns = new Turns(5000);
    const told: string[] = [];
    const one = (key: string, name: string, ms: number) =>
      turns.take(key, async () => {
        told.push(`${name} begins`);
        await after(ms);
        told.push(`${name} ends`);
        return name;
      });
    expect(await Promise.all([one('a', 'a1', 30), one('a', 'a2', 1), one('b', 'b1', 5)])).toEqual(['a1', 'a2', 'b1']);
    expect(told).toEqual(['a1 begins', 'b1 begins', 'b1 ends', 'a1 ends', 'a2 begins', 'a2 ends']);
  });

  it('go on after one that failed, whose fault is its own', async () => {
    const turns = new Turns(5000);
    const fails = turns.take('a', () => Promise.reject(new Error('mine')));
    const works = turns.take('a', () => Promise.resolve('fine'));
    await expect(fails).rejects.toThrow('mine');
    expect(await works).toBe('fine');
  });

  it('are given up by who waited too long, and then never run', async () => {
    const turns = new Turns(40);
    let ran = false;
    const long = turns.take('a', () => after(150));
    const late = turns.take('a', () => Promise.resolve((ran = true)));
    await expect(late).rejects.toThrow('busy');
    await long;
    await after(20);
    expect(ran).toBe(false);
    expect(await turns.take('a', () => Promise.resolve('next'))).toBe('next');
  });
});
