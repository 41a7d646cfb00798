import { readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { freshDataFolder } from '../../../tests/support/dataFolder';
import {
  knownSeats,
  loginIn,
  removeSeat,
  seatOfLogin,
  setSeat,
  signIn,
  signOut,
  verdict,
  type Arriving,
  type Role,
} from '.';

const removeFolder = freshDataFolder();
afterAll(removeFolder);

const here: Arriving = { method: 'GET', url: '/', host: 'localhost:4610', remote: '127.0.0.1', forwarded: false };
const there: Arriving = { ...here, host: '192.168.1.5:4610', remote: '192.168.1.9' };
const engineer: Role = 'engineer';
const listener: Role = 'listener';

describe('what is let in', () => {
  it.each<[string, Partial<Arriving>, Role | null, number | Role]>([
    ['this machine, without a word', {}, null, engineer],
    ['this machine, changing', { method: 'POST', url: '/api/sessions' }, null, engineer],
    ['another, a page', { ...there }, null, 303],
    ['another, data', { ...there, url: '/api/sessions' }, null, 401],
    ['another, changing', { ...there, method: 'POST', url: '/api/sessions' }, null, 401],
    ['another, the way in', { ...there, url: '/sign-in' }, null, listener],
    ['another, the way in, sent', { ...there, method: 'POST', url: '/api/sign-in' }, null, listener],
    ['another, what the way in is made of', { ...there, url: '/_next/static/a.js' }, null, listener],
    ['another, the way in and up again', { ...there, url: '/_next/static/../../api/sessions' }, null, 400],
    ['another, the same spelt otherwise', { ...there, url: '/_next/static/%2e%2e/api/sessions' }, null, 400],
    ['another, an address like the way in', { ...there, url: '/sign-in/../api/sessions' }, null, 400],
    ['another, two strokes', { ...there, url: '//api/sessions' }, null, 400],
    ['one that says it is this machine', { ...there, host: 'localhost:4610' }, null, 303],
    ['this machine, for another by a proxy', { forwarded: true }, null, 303],
    ['this machine, by a name that others use', { host: 'studio.lan:4610' }, null, 303],
    ['the performer’s window, by its token', { ...there, url: '/prompt/shared/abc' }, null, listener],
    ['an engineer, changing', { ...there, method: 'POST', url: '/api/sessions/x/edits' }, engineer, engineer],
    ['a listener, reading', { ...there, url: '/api/sessions/x' }, listener, listener],
    [
      'a listener, telling that they are here',
      { ...there, method: 'POST', url: '/api/sessions/x/here' },
      listener,
      listener,
    ],
    ['a listener, changing', { ...there, method: 'POST', url: '/api/sessions/x/edits' }, listener, 403],
    ['a listener, removing', { ...there, method: 'DELETE', url: '/api/prints/x' }, listener, 403],
    ['a listener, recording', { ...there, method: 'PUT', url: '/api/recordings/x/chunks/dry' }, listener, 403],
    ['a method that is none', { method: 'TRACE' }, null, 405],
    ['an address that is none', { url: '/api/%ff' }, null, 400],
    ['an address with NUL', { url: '/api/%00' }, null, 400],
    ['an address of another server', { url: 'http://elsewhere/' }, null, 400],
  ])('%s', (_, arriving, role, should) => {
    const said = verdict({ ...here, ...arriving }, role);
    expect(said.pass ? said.role : said.status).toBe(should);
  });
});

describe('a seat', () => {
  beforeEach(() => {
    knownSeats().forEach((s) => removeSeat(s.name));
    // Wrong phrases that other files of this process have sent.
    Reflect.deleteProperty(globalThis, Symbol.for('wide-room/login-tries'));
  });
  it('signs in with its phrase and no other, and out again', async () => {
    await setSeat('Ada', 'engineer', 'a lamp in the fog');
    const file = path.join(process.env.WIDE_ROOM_DATA!, 'seats.json');
    expect(readFileSync(file, 'utf8')).not.toContain('lamp');
    expect(knownSeats()[0]!.hash).toMatch(/^\$argon2id\$v=19\$m=65536,t=3,p=1\$/);
    expect(statSync(file).mode & 0o077).toBe(0);
    await expect(signIn('Ada', 'a lamp in the dark', '10.0.0.1')).rejects.toThrow(/do not belong together/);
    await expect(signIn('Ben', 'a lamp in the fog', '10.0.0.1')).rejects.toThrow(/do not belong together/);
    await expect(signIn('Ada', '', '10.0.0.1')).rejects.toThrow(/do not belong together/);
    const token = await signIn('ada ', 'a lamp in the fog', '10.0.0.1');
    expect(seatOfLogin(token)).toMatchObject({ name: 'Ada', role: 'engineer' });
    expect(seatOfLogin(`${token}x`)).toBeNull();
    expect(seatOfLogin(undefined)).toBeNull();
    expect(loginIn(`a=b; wide-room-login=${token}; c=d`)).toBe(token);
    signOut(token);
    expect(seatOfLogin(token)).toBeNull();
  });
  it('that is taken away, or has another phrase, is out at once', async () => {
    await setSeat('Ada', 'engineer', 'a lamp in the fog');
    const first = await signIn('Ada', 'a lamp in the fog', '10.0.0.2');
    await setSeat('ada', 'listener', 'another phrase altogether');
    expect(knownSeats()).toHaveLength(1);
    expect(seatOfLogin(first)).toBeNull();
    const second = await signIn('Ada', 'another phrase altogether', '10.0.0.2');
    expect(seatOfLogin(second)).toMatchObject({ role: 'listener' });
    removeSeat('ADA');
    expect(seatOfLogin(second)).toBeNull();
    expect(() => removeSeat('Ada')).toThrow(/no seat "Ada"/);
  });
  it('is not guessed: after ten wrong phrases nobody is asked any more for a while', async () => {
    await setSeat('Eve', 'engineer', 'a lamp in the fog');
    for (let i = 0; i < 10; i++)
      await expect(signIn('Eve', `guess ${i}`, `10.0.1.${i}`)).rejects.toThrow(/belong together/);
    await expect(signIn('Eve', 'a lamp in the fog', '10.0.1.99')).rejects.toThrow(/Too many wrong/);
  });
  it.each([
    ['', 'engineer', 'a lamp in the fog', /has a name/],
    ['../x', 'engineer', 'a lamp in the fog', /has a name/],
    ['Ada', 'owner', 'a lamp in the fog', /not of "owner"/],
    ['Ada', 'engineer', 'short', /12 to 200 characters/],
  ])('is refused: %j, %s, %j', async (name, role, phrase, why) => {
    await expect(setSeat(name, role, phrase)).rejects.toThrow(why);
    expect(knownSeats()).toEqual([]);
  });
});
