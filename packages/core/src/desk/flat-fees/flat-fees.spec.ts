import fc from 'fast-check';
import { feeResultSchema, looksLikeFee, type KnownFee } from '.';

const fee = (id: string, more: Partial<KnownFee>): KnownFee => ({
  id,
  name: id,
  categoryId: null,
  words: [],
  forNewPerson: false,
  forNewAsset: false,
  ...more,
});
const job = { categoryId: null, text: '', newPerson: false, newAsset: false };

describe('a job that looks like a flat-fee job', () => {
  it('is pointed out by its category, its words, or somebody or something new', () => {
    const fees = [
      fee('open an account', { categoryId: 'new', words: ['new starter'], forNewPerson: true }),
      fee('prepare a till', { words: ['new till'], forNewAsset: true }),
    ];
    expect(looksLikeFee(fees, { ...job, categoryId: 'new' })?.why).toBe('its category');
    expect(looksLikeFee(fees, { ...job, text: 'A New\n starter on the 1st' })).toEqual({
      feeId: 'open an account',
      name: 'open an account',
      why: 'the words "new starter"',
    });
    expect(looksLikeFee(fees, { ...job, newAsset: true })?.feeId).toBe('prepare a till');
    expect(looksLikeFee(fees, { ...job, text: 'renew starters' })).toBeUndefined();
    expect(looksLikeFee(fees, job)).toBeUndefined();
  });

  it('is nothing where no fee is known, and never a fee that asks for nothing', () => {
    fc.assert(
      fc.property(fc.string(), fc.boolean(), (text, newPerson) => {
        expect(looksLikeFee([], { ...job, text, newPerson })).toBeUndefined();
        expect(looksLikeFee([fee('a', { words: [' '] })], { ...job, text, newPerson })).toBeUndefined();
      }),
    );
  });

  it('says what failed, where it failed', () => {
    expect(feeResultSchema.isValidSync({ result: 'success', note: null })).toBe(true);
    expect(feeResultSchema.isValidSync({ result: 'failed', note: null })).toBe(false);
    expect(feeResultSchema.isValidSync({ result: 'failed', note: 'no licence was left' })).toBe(true);
  });
});
