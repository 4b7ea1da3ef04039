import { betaBelow } from './beta.ts';

/** How likely a value of Student’s distribution with so many degrees of freedom is at least as far from nought as `t`, on either side. */
export const beyondT = (t: number, freedom: number): number =>
  betaBelow(freedom / (freedom + t * t), freedom / 2, 0.5);

/** The same of the normal distribution: that of Student with as good as endless degrees of freedom. */
export const beyondNormal = (z: number): number => beyondT(z, 1e6);

/** What Student’s distribution stays below with a likelihood of 97.5 %: half the width of a 95 % interval, in standard errors. */
export function t975(freedom: number): number {
  let [low, high] = [0, 1e4];
  for (let step = 0; step < 200; step++) {
    const middle = (low + high) / 2;
    if (beyondT(middle, freedom) > 0.05) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The same of the normal distribution. */
export const z975 = 1.959963984540054;
