/** Logarithm of the gamma function, by Lanczos' approximation (g = 7, nine terms); right to about 15 digits for x > 0. */
function lnGamma(x: number): number {
  const terms = [
    676.5203681218851, -1259.1392167224028, 771.3234287776531, -176.6150291621406, 12.507343278686905,
    -0.13857109526572012, 9.984369578019572e-6, 1.5056327351493116e-7,
  ];
  const z = x - 1;
  const sum = terms.reduce((s, c, n) => s + c / (z + n + 1), 0.9999999999998099);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/** The continued fraction of the incomplete beta function (DLMF 8.17.22), by Lentz's method. */
function fraction(x: number, a: number, b: number): number {
  const tiny = 1e-300;
  const kept = (v: number) => (Math.abs(v) < tiny ? tiny : v);
  let c = 1;
  let d = 1 / kept(1 - ((a + b) * x) / (a + 1));
  let h = d;
  for (let m = 1; m <= 500; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / kept(1 + even * d);
    c = kept(1 + even / c);
    h *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / kept(1 + odd * d);
    c = kept(1 + odd / c);
    const step = d * c;
    h *= step;
    if (Math.abs(step - 1) < 1e-13) break;
  }
  return h;
}

/** The regularized incomplete beta function I_x(a, b): the share of a beta distribution below x. */
export function betaBelow(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log1p(-x));
  // Each half of the axis has the expansion that converges there.
  return x < (a + 1) / (a + b + 2)
    ? (front * fraction(x, a, b)) / a
    : 1 - (front * fraction(1 - x, b, a)) / b;
}
