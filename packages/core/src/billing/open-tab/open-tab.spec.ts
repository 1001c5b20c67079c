import fc from 'fast-check';
import { money } from '../../ground';
import { tabPass } from '.';

const eur = (minor: number) => money(minor, 'EUR');
const LEVEL = eur(100_000);

describe('the level of an open tab', () => {
  it('is reached at just its sum, and left just below it', () => {
    expect(tabPass({ sum: eur(99_999), level: LEVEL, wasTold: false })).toBe('nothing');
    expect(tabPass({ sum: eur(100_000), level: LEVEL, wasTold: false })).toBe('tell');
    expect(tabPass({ sum: eur(100_000), level: LEVEL, wasTold: true })).toBe('nothing');
    expect(tabPass({ sum: eur(99_999), level: LEVEL, wasTold: true })).toBe('below again');
  });

  it('is told of once each time that it is passed upwards, whatever the sums', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50_000, max: 250_000 })), (sums) => {
        let wasTold = false;
        let told = 0;
        for (const minor of sums) {
          const pass = tabPass({ sum: eur(minor), level: LEVEL, wasTold });
          if (pass === 'tell') told++;
          if (pass !== 'nothing') wasTold = pass === 'tell';
          expect(wasTold).toBe(minor >= LEVEL.minor);
        }
        const upwards = sums.filter((minor, n) => minor >= LEVEL.minor && (n === 0 || sums[n - 1]! < LEVEL.minor)).length;
        expect(told).toBe(upwards);
      }),
    );
  });
});
