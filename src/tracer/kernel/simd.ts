/** Functions of four values at once, as the same bits everywhere. */

/** e^−x for x ≥ 0, within 2e-4. */
// @ts-ignore: decorator
@inline
export function expMinus(x: v128): v128 {
  const y = f32x4.max(f32x4.mul(x, f32x4.splat(-1.44269504)), f32x4.splat(-100));
  const whole = f32x4.floor(y);
  const f = f32x4.sub(y, whole);
  let p = f32x4.add(f32x4.mul(f, f32x4.splat(0.0791)), f32x4.splat(0.2242));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.6967));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1));
  return i32x4.add(p, i32x4.shl(i32x4.trunc_sat_f32x4_s(whole), 23));
}
