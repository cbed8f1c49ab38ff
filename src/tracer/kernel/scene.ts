/** The scene that this kernel works on: its header's address and short readers of its fields. */

export let scene: usize = 0;

export function setScene(at: usize): void {
  scene = at;
}

// @ts-ignore: decorator
@inline
export function f(offset: usize): f32 {
  return load<f32>(scene + offset);
}

// @ts-ignore: decorator
@inline
export function u(offset: usize): u32 {
  return load<u32>(scene + offset);
}

// @ts-ignore: decorator
@inline
export function flag(bit: u32): bool {
  return (load<u32>(scene + 4) & bit) != 0;
}

export const PI: f32 = 3.14159265358979;
export const INV_PI: f32 = 0.318309886183791;

// @ts-ignore: decorator
@inline
export function luminance(r: f32, g: f32, b: f32): f32 {
  return <f32>0.2126 * r + <f32>0.7152 * g + <f32>0.0722 * b;
}

// @ts-ignore: decorator
@inline
export function sq(x: f32): f32 {
  return x * x;
}

/** Tangent frame about a unit vector (Duff et al. 2017). */
export let tx: f32 = 0;
export let ty: f32 = 0;
export let tz: f32 = 0;
export let bx: f32 = 0;
export let by: f32 = 0;
export let bz: f32 = 0;

export function frameAbout(x: f32, y: f32, z: f32): void {
  const s: f32 = z < 0 ? -1 : 1;
  const a = <f32>-1 / (s + z);
  const b = x * y * a;
  tx = <f32>1 + s * x * x * a;
  ty = s * b;
  tz = -s * x;
  bx = b;
  by = s + y * y * a;
  bz = -y;
}
