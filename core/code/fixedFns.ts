import { readFns } from "../tree";

/** How features follow from the fractions of a reading. */
export const featureFns = readFns(`
fn scaled(raw: num, low: num, high: num): num
  "A raw value as a fraction of its scale, 0 to 1."
  let x = (raw - low) / (high - low)
  if x < 0.0
    return 0.0
  if x > 1.0
    return 1.0
  return x

fn hue_of(r: num, g: num, b: num): num
  "Hue in degrees, 0 to 360; a grey has none: nan, which passes no test."
  let most = max(r, g, b)
  let delta = most - min(r, g, b)
  if not (delta >= GREY_BELOW)
    return nan
  let hue = 0.0
  if most == r
    hue = (g - b) / delta * 60.0
  elif most == g
    hue = ((b - r) / delta + 2.0) * 60.0
  else
    hue = ((r - g) / delta + 4.0) * 60.0
  if hue < 0.0
    hue += 360.0
  if hue >= 360.0
    return 0.0
  return hue

fn hue_within(hue: num, start: num, end: num): bool
  "Whether a hue lies from start to end; a band that starts above its end goes through 0."
  if start <= end
    return hue >= start and hue <= end
  return hue >= start or hue <= end

fn sat_of(r: num, g: num, b: num): num
  "Saturation, 0 to 1."
  let most = max(r, g, b)
  if most == 0.0
    return 0.0
  return (most - min(r, g, b)) / most

fn wrap_hue(degrees: num): num
  "Any angle brought into 0 to 360."
  let wrapped = fmod(fmod(degrees, 360.0) + 360.0, 360.0)
  if wrapped >= 360.0
    return 0.0
  return wrapped

fn channel_of(hue: num, sat: num, val: num, offset: num): num
  "Red, green or blue of hue in degrees, saturation and value, by the offset 5, 3 or 1."
  let k = fmod(offset + hue / 60.0, 6.0)
  return val - val * sat * max(0.0, min(k, 4.0 - k, 1.0))

fn linear(x: num): num
  "A display value, 0 to 1, as linear light (IEC 61966-2-1)."
  if x <= 0.04045
    return x / 12.92
  let u = (x + 0.055) / 1.055
  let y = 0.58 + u * (0.65 - 0.19 * u)
  for i in 0..3
    let square = y * y
    let fifth = square * square * y
    y += y * (u - fifth) / (3.0 * fifth + 2.0 * u)
  return u * u * y * y

fn compressed(x: num): num
  "The cube root of CIE 15, straight near black."
  if not (x > 216.0 / 24389.0)
    return (24389.0 / 27.0 * x + 16.0) / 116.0
  let y = 0.23 + x * (1.54 - 0.57 * x)
  for i in 0..3
    let cube = y * y * y
    y += y * (x - cube) / (2.0 * cube + x)
  return y

fn light_of(r: num, g: num, b: num): num
  "CIE L*, 0 to 100."
  let y = 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b)
  return 116.0 * compressed(y) - 16.0

fn chroma_of(r: num, g: num, b: num): num
  "CIE C*ab."
  let red = linear(r)
  let green = linear(g)
  let blue = linear(b)
  let fx = compressed((0.4124 * red + 0.3576 * green + 0.1805 * blue) / (0.4124 + 0.3576 + 0.1805))
  let fy = compressed(0.2126 * red + 0.7152 * green + 0.0722 * blue)
  let fz = compressed((0.0193 * red + 0.1192 * green + 0.9505 * blue) / (0.0193 + 0.1192 + 0.9505))
  let x = 500.0 * (fx - fy)
  let z = 200.0 * (fy - fz)
  return sqrt(x * x + z * z)

fn wave_of(degrees: num, ahead: num): num
  "Sine, so many quarter turns ahead, by the same series as in the program, so that no bit differs."
  let share = degrees / 90.0
  let quarter = floor(share)
  if share - quarter >= 0.5
    quarter += 1.0
  let x = (degrees - quarter * 90.0) * (pi / 180.0)
  let s = x * x
  let sine = x * (1.0 - s / 6.0 * (1.0 - s / 20.0 * (1.0 - s / 42.0 * (1.0 - s / 72.0 * (1.0 - s / 110.0 * (1.0 - s / 156.0))))))
  let cosine = 1.0 - s / 2.0 * (1.0 - s / 12.0 * (1.0 - s / 30.0 * (1.0 - s / 56.0 * (1.0 - s / 90.0 * (1.0 - s / 132.0 * (1.0 - s / 182.0))))))
  let turn = fmod(fmod(quarter + ahead, 4.0) + 4.0, 4.0)
  if turn == 0.0
    return sine
  if turn == 1.0
    return cosine
  if turn == 2.0
    return -sine
  return -cosine

fn sin_of(degrees: num): num
  "Sine."
  return wave_of(degrees, 0.0)

fn cos_of(degrees: num): num
  "Cosine."
  return wave_of(degrees, 1.0)
`);

/** How labels become what is seen. */
export const steadyingFns = readFns(`
fn among(eye: int, label: int, newest: int): int
  "How many of the newest labels of a sensor are a label."
  let found = 0
  for i in 0..min(newest, recent_count[eye])
    if recent[eye * RECENT + i] == label
      found += 1
  return found

fn steady(eye: int, label: int, t_ms: num)
  "Takes in one label of a sensor. What it sees is then in seen[eye]; departs[eye] and arrives[eye] say what happened, 0 for nothing."
  let keep = max(OF[eye], RELEASE[eye])
  let last = min(recent_count[eye], keep - 1)
  let i = last
  while i > 0
    recent[eye * RECENT + i] = recent[eye * RECENT + i - 1]
    i -= 1
  recent[eye * RECENT] = label
  recent_count[eye] = last + 1
  departs[eye] = 0
  arrives[eye] = 0
  let before = seen[eye]
  let now = before
  if label != 0 and label != before and among(eye, label, OF[eye]) >= HITS[eye]
    now = label
  elif before != 0 and recent_count[eye] >= RELEASE[eye] and among(eye, before, RELEASE[eye]) == 0
    now = 0
  if now == before
    return
  seen[eye] = now
  # Back soon enough, and nothing else between: the same visit.
  let rejoins = before == 0 and now == visited[eye] and t_ms - departed_at[eye] <= REJOIN_MS[eye]
  if before != 0
    departs[eye] = before
    departed_at[eye] = t_ms
  if now == 0
    return
  visited[eye] = now
  departed_at[eye] = nan
  if not rejoins
    arrives[eye] = now
    visit[eye] += 1

fn forget()
  "As it was at the start: nothing is seen, and nothing was."
  for eye in 0..STEADIED
    seen[eye] = 0
    recent_count[eye] = 0
    visit[eye] = 0
    visited[eye] = 0
    departed_at[eye] = nan
    departs[eye] = 0
    arrives[eye] = 0
`);
