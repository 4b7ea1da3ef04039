/** Logarithm of the gamma function for positive `x`: Stirling’s series from ten upwards, and Γ(x) = Γ(x + 1)/x below (Abramowitz and Stegun, 6.1.40). */
function logGamma(x: number): number {
  if (x < 10) return logGamma(x + 1) - Math.log(x);
  const series = 1 / (12 * x) - 1 / (360 * x ** 3) + 1 / (1260 * x ** 5) - 1 / (1680 * x ** 7);
  return (x - 0.5) * Math.log(x) - x + Math.log(2 * Math.PI) / 2 + series;
}

/** The incomplete beta function, by its continued fraction as Lentz works it out (Numerical Recipes, 3rd edition, 6.4). */
function incompleteBeta(a: number, b: number, x: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(b, a, 1 - x);
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log(1 - x));
  const tiny = 1e-300;
  const away = (value: number) => (Math.abs(value) < tiny ? tiny : value);
  let c = 1;
  let d = 1 / away(1 - ((a + b) * x) / (a + 1));
  let fraction = d;
  for (let m = 1; m <= 500; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / away(1 + even * d);
    c = away(1 + even / c);
    fraction *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / away(1 + odd * d);
    c = away(1 + odd / c);
    fraction *= d * c;
    if (Math.abs(d * c - 1) < 1e-14) break;
  }
  return (front * fraction) / a;
}

/** How likely a value of Student’s distribution with so many degrees of freedom is at least as far from nought as `t`, on either side. */
export const beyondT = (t: number, freedom: number): number =>
  incompleteBeta(freedom / 2, 0.5, freedom / (freedom + t * t));

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
