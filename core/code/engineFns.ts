import { type Fn, readFns } from "../tree";

/** What the robot's side has: what it is told, and what is noted of what happened. Each language says how. */
export const robotFns: readonly Fn[] = readFns(`
fn robot_wheels(left: num, right: num)
  "Runs the wheels at shares of top speed, -1 to 1."

fn robot_stop(how: text)
  "Stops the wheels: brake or coast."

fn robot_lamp(lamp: text, colour: text, blink_hz: num)
  "Lights a lamp in a colour like #e4573d, or with an empty one switches it off; 0 does not blink."

fn robot_tone(hertz: num, ms: num)
  "Sounds a tone."

fn robot_tune(first: int, count: int)
  "Plays tones one after the other: TUNE_HERTZ and TUNE_MS from first on; 0 hertz is a rest."

fn robot_say(words: text)
  "Speaks a word, or plays a sound of that name."

fn robot_show(words: text)
  "Writes on the display."

fn robot_picture(picture: text)
  "Shows a picture on the display."

fn robot_servo(servo: text, degrees: num, degrees_per_second: num)
  "Turns a servo to an angle."

fn robot_gate(gate: text, open: bool)
  "Opens or closes a gate."

fn robot_note(kind: text, what: text, more: text, also: text, number: num)
  "Something happened: for a log, or for nothing."

fn with_number(before: text, number: num, after: text): text
  "A whole number between two texts."
`);

/** What a behaviour needs of the engine: what nothing needs is left out. */
export interface Needs {
  belt: boolean;
  byTravel: boolean;
  besides: boolean;
  /** Whether steps put others before those that follow them, and whether lists are replayed. */
  pushes: boolean;
  replays: boolean;
}

/** The engine: what the core's does, with numbers in the place of names. */
export const engineFns = (needs: Needs): Fn[] =>
  readFns(`
fn passed_ms(): num
  "How long the step goes on."
  return t_now - since_t

fn gone_both(): num
  "How far both wheels have gone since the step began, in mm."
  return abs(way_left - since_left + (way_right - since_right)) / 2.0

fn gone_difference(): num
  "How much farther one wheel has gone than the other, in mm."
  return abs(way_right - since_right - (way_left - since_left))

fn gone_farther(): num
  "How far the wheel has gone that went farther, in mm."
  return max(abs(way_left - since_left), abs(way_right - since_right))

fn wheels_still(): bool
  "Whether the encoders have counted nothing for 100 ms."
  return t_now - turned_at >= 100.0

fn share_of(x: num): num
  "A number brought into -1 to 1; 0 where it is none."
  if not (x == x)
    return 0.0
  return max(-1.0, min(1.0, x))

fn start_moment(t_ms: num, left_mm: num, right_mm: num)
  "Begins a moment: the time in ms, and how far each wheel has gone, in mm. Readings of the moment follow, then end_moment."
  t_now = t_ms
  asleep = finished
  if asleep
    return
  way_left = left_mm
  way_right = right_mm
  arrivals = 0
  departures = 0
  brings = false
  ${needs.byTravel ? "count_turns()" : ""}
  if not started
    enter(START)
    carry_on()

fn end_moment()
  "Ends a moment: what was read is answered, and steps go on."
  if asleep
    return
  respond()
  carry_on()
  ${needs.besides ? "carry_on_beside()" : ""}
  ${needs.belt ? "move_gates()" : ""}

fn count_turns()
  "What the encoders count now, in whole degrees of a wheel, and since when."
  let left = floor(way_left / (pi * WHEEL_MM) * 360.0)
  let right = floor(way_right / (pi * WHEEL_MM) * 360.0)
  if left != turned_left or right != turned_right
    turned_left = left
    turned_right = right
    turned_at = t_now

fn label_taken(eye: int, taken_for: int)
  "Takes in what one reading of a sensor is taken for."
  brings = true
  label_of[eye] = taken_for
  let before = visit[eye]
  ${needs.belt ? "let moved = not says_the_same(eye, taken_for)" : ""}
  steady(eye, taken_for, t_now)
  if seen[eye] != 0 or departs[eye] != 0
    known_at[eye] = t_now
  ${needs.belt ? "if moved\n    remember_way(eye, taken_for)" : ""}
  if departs[eye] != 0
    departed(eye, departs[eye], before, departure_told[eye] != before)
    departure_told[eye] = before
  if arrives[eye] != 0
    arrived(eye, arrives[eye], visit[eye])

fn says_the_same(eye: int, taken_for: int): bool
  "Whether a label says what all before it said."
  let keep = max(OF[eye], RELEASE[eye])
  return taken_for == seen[eye] and recent_count[eye] == keep and among(eye, taken_for, keep) == keep

fn remember_way(eye: int, taken_for: int)
  "How far the belt had gone with each reading that steadying remembers, and with the first of a visit."
  let i = recent_count[eye] - 1
  while i > 0
    ways[eye * RECENT + i] = ways[eye * RECENT + i - 1]
    i -= 1
  ways[eye * RECENT] = way_left
  if arrives[eye] != 0
    last_way[eye] = visit_way[eye]
    let first = 0
    for k in 0..min(OF[eye], recent_count[eye])
      if recent[eye * RECENT + k] == taken_for
        first = k
    visit_way[eye] = ways[eye * RECENT + first]

fn sights_taken(eye: int, first: int)
  "Takes in which targets have a blob in a camera's frame; each is steadied by itself."
  brings = true
  frame_came[eye] = true
  let known = false
  for target in 0..TARGETS
    let place = first + target
    visit_before[target] = visit[place]
    steady(place, target + 1 if blobs[place * BLOB_FIELDS] > 0.0 else 0, t_now)
    if departs[place] != 0 or seen[place] != 0
      known = true
  if known
    known_at[eye] = t_now
  for target in 0..TARGETS
    let place = first + target
    if departs[place] != 0
      departed(eye, target + 1, visit_before[target] * 256 + target + 1, departure_told[place] != visit_before[target])
      departure_told[place] = visit_before[target]
  for target in 0..TARGETS
    let place = first + target
    if arrives[place] != 0
      arrived(eye, target + 1, visit[place] * 256 + target + 1)

fn first_sight(first: int): int
  "The label of the first target that a camera sees."
  for target in 0..TARGETS
    if seen[first + target] != 0
      return target + 1
  return 0

fn blob_of(eye: int, first: int, target: int, field: int): num
  "What is known of the largest blob of a target; nan where there is none."
  let place = (first + target - 1) * BLOB_FIELDS
  if not frame_came[eye] or not (blobs[place] > 0.0)
    return nan
  return blobs[place + field]

fn departed(eye: int, target: int, number: int, is_told: bool)
  "A target departs from a sensor."
  if departures < EVENTS
    departure_eye[departures] = eye
    departure_label[departures] = target
    departure_visit[departures] = number
    departures += 1
  if is_told
    robot_note("departs", IDS_OF_EYES[eye], NAMES[target], "", 0.0)

fn arrived(eye: int, target: int, number: int)
  "A target arrives before a sensor."
  if arrivals < EVENTS
    arrival_eye[arrivals] = eye
    arrival_label[arrivals] = target
    arrivals += 1
  robot_note("arrives", IDS_OF_EYES[eye], NAMES[target], "", 0.0)

fn fired_by(eye: int, target: int)
  "What makes a response fire."
  by_eye = eye
  by_label = target

fn respond()
  "The first response of the mode whose trigger holds and that is armed starts, if it may."
  let taken = false
  let quiet = arrivals == 0 and departures == 0
  let last = FIRST_RESPONSE[mode + 1]
  for r in FIRST_RESPONSE[mode]..last
    if not (quiet and BY_EVENTS[r])
      taken = consider(r, taken)

fn consider(r: int, taken: bool): bool
  "Starts a response if it is its turn; gives whether one has been started in this moment."
  by_label = 0
  let episode = when(r)
  let is_so = episode == episode
  if not is_so and not ON_EDGE[r]
    # What held and holds no longer is another occasion when it holds again.
    if RENEWS[r] and arm_spent[r] == 1.0
      arm_spent[r] = nan
    return taken
  let edge = ON_EDGE[r]
  let fresh = not arm_known[r]
  let held = arm_held[r]
  if edge
    arm_known[r] = true
    arm_held[r] = is_so
  if not is_so or edge and (fresh or held)
    return taken
  let once = ONCE[r]
  if once and not edge and arm_spent[r] == episode
    return taken
  if not once and (t_now < arm_ready[r] or active and response == r)
    return taken
  if not only_if(r)
    return taken
  if taken or active and LETS_FINISH[r]
    # One that fires while present, and a time that has come, will still hold later.
    if once and not STAYS_DUE[r]
      arm_spent[r] = episode
      robot_note("dropped", IDS_OF_RESPONSES[r], IDS_OF_MODES[mode], "", 0.0)
    return taken
  arm_spent[r] = episode
  arm_ready[r] = t_now + REST_MS[r]
  robot_note("fires", IDS_OF_RESPONSES[r], NAMES[by_label] if by_label != 0 else "", IDS_OF_EYES[by_eye] if by_label != 0 else "", 0.0)
  active = true
  response = r
  begun = false
  depth = 0
  put_frame(MODES + r, 0, by_label)
  ${needs.belt ? "find_piece()" : ""}
  return true

fn find_piece()
  "The piece that a response fired for: of the visit that its sensor has now, or of the one that just ended."
  if by_label == 0 or IS_CAMERA[by_eye]
    return
  let came = false
  for i in 0..arrivals
    if arrival_eye[i] == by_eye
      came = true
  frame_eye[0] = by_eye
  frame_way[0] = last_way[by_eye] if came and seen[by_eye] != by_label else visit_way[by_eye]
  frame_t[0] = t_now

fn put_frame(sequence: int, again: int, target: int)
  "Puts steps before those that follow."
  if depth >= FRAMES
    robot_note("trouble", "steps are nested too deeply", "", "", 0.0)
    finish()
    return
  frame_sequence[depth] = sequence
  frame_index[depth] = 0
  frame_again[depth] = again
  frame_target[depth] = target
  frame_list[depth] = -1
  frame_eye[depth] = -1
  depth += 1

fn enter(next: int)
  "Begins a mode."
  started = true
  mode = next
  mode_since = t_now
  for r in 0..RESPONSES
    arm_known[r] = false
    arm_spent[r] = nan
    arm_ready[r] = -infinity
    arm_held[r] = false
  robot_note("mode", IDS_OF_MODES[mode], "", "", 0.0)
  active = true
  response = -1
  begun = false
  depth = 0
  put_frame(mode, 0, 0)

fn next_frame()
  "What is done once the steps of a sequence are through."
  let top = depth - 1
  if frame_again[top] > 0
    frame_again[top] -= 1
    frame_index[top] = 0
    return
  ${needs.replays ? "if frame_list[top] >= 0 and replay_on(top)\n    return" : ""}
  depth -= 1
  if depth > 0
    return
  let ended = response
  robot_note("ended", IDS_OF_RESPONSES[ended] if ended >= 0 else "", "", "", 0.0)
  active = false
  if ended >= 0
    if THEN[ended] == -2
      finish()
    elif THEN[ended] >= 0
      enter(THEN[ended])

fn carry_on()
  "Carries the steps on as far as this moment goes."
  let steps = 0
  while active and not finished
    if steps > 10000
      robot_note("trouble", "modes and steps follow each other in a circle without time passing", "", "", 0.0)
      finish()
      return
    steps += 1
    let top = depth - 1
    let sequence = frame_sequence[top]
    if frame_index[top] >= STEPS_OF[sequence]
      next_frame()
    elif not carry_on_step(FIRST_STEP[sequence] + frame_index[top])
      return

fn carry_on_step(s: int): bool
  "Carries one step on; gives whether the moment goes on behind it."
  let is_new = not begun
  if is_new
    begun_t = t_now
    begun_left = way_left
    begun_right = way_right
    begun_ms = 0.0
  since_t = begun_t
  since_left = begun_left
  since_right = begun_right
  since_ms = begun_ms
  if is_new
    begin_step(s)
    begun_ms = since_ms
    if finished
      return false
    if next_mode >= 0
      let next = next_mode
      next_mode = -1
      enter(next)
      return true
  if not SKIPPED[s]
    if is_new or brings
      during_step(s)
    if not step_ended(s)
      begun = true
      return false
    end_step(s)
  frame_index[depth - 1] += 1
  begun = false
  ${needs.pushes ? "push_steps()" : ""}
  return true

fn push_steps()
  "Puts the steps of a routine, or of a replay, before those that follow."
  let what = pushed
  pushed = 0
  let top = depth - 1
  if what == 1
    put_frame(pushed_sequence, pushed_again, frame_target[top])
    if depth > top + 1
      frame_eye[depth - 1] = frame_eye[top]
      frame_way[depth - 1] = frame_way[top]
      frame_t[depth - 1] = frame_t[top]
  ${
    needs.replays
      ? `if what == 2
    put_frame(0, 0, 0)
    if depth > top + 1
      frame_list[depth - 1] = pushed_list
      frame_mode[depth - 1] = pushed_mode
      frame_next[depth - 1] = 0
      frame_end[depth - 1] = pushed_end
      if not replay_on(depth - 1)
        depth -= 1`
      : ""
  }

fn do_steps(sequence: int, times: int)
  "The steps of a routine come next."
  pushed = 1
  pushed_sequence = sequence
  pushed_again = times - 1

fn replay(which: int, in_mode: int, before: text, after: text)
  "For each jotted target, in order, the steps of its arrival response in a mode come next."
  pushed = 2
  pushed_list = which
  pushed_mode = in_mode
  pushed_end = list_count[which]
  for i in 0..list_count[which]
    let target = lists[which * MOST_JOTTED + i]
    if answer_to(in_mode, target) < 0
      robot_note("trouble", before, NAMES[target], after, 0.0)

fn replay_on(place: int): bool
  "Goes on to the next jotted target that is answered; gives whether there is one."
  while frame_next[place] < frame_end[place]
    let target = lists[frame_list[place] * MOST_JOTTED + frame_next[place]]
    frame_next[place] += 1
    let answer = answer_to(frame_mode[place], target)
    if answer >= 0
      frame_sequence[place] = answer
      frame_index[place] = 0
      frame_target[place] = target
      return true
  return false

fn jot(which: int, nothing: text, full: text)
  "Writes the target that fired onto a list."
  let target = frame_target[depth - 1]
  if target == 0
    robot_note("trouble", nothing, "", "", 0.0)
    return
  if list_count[which] >= MOST_JOTTED
    robot_note("trouble", full, "", "", 0.0)
    return
  lists[which * MOST_JOTTED + list_count[which]] = target
  list_count[which] += 1
  robot_note("list", IDS_OF_LISTS[which], NAMES[target], "", list_count[which] + 0.0)

fn set_counter(which: int, value: num)
  "Sets a counter."
  counters[which] = value
  robot_note("counter", IDS_OF_COUNTERS[which], "", "", value)

fn beside(s: int)
  "Begins a step and lets it run beside those that follow."
  let old_t = since_t
  let old_left = since_left
  let old_right = since_right
  let old_ms = since_ms
  let old_actor = actor
  since_t = t_now
  since_left = way_left
  since_right = way_right
  since_ms = 0.0
  actor = -1
  # What ends at once takes no place.
  if LASTS[s - STEPS]
    clear_besides()
    if beside_count < BESIDES
      actor = beside_count
      beside_step[actor] = s
      beside_output[actor] = -1
      beside_count += 1
    else
      robot_note("trouble", "too many steps run beside each other", "", "", 0.0)
  begin_step(s)
  if actor >= 0
    beside_t[actor] = since_t
    beside_left[actor] = since_left
    beside_right[actor] = since_right
    beside_ms[actor] = since_ms
    if ENDLESS[s - STEPS]
      own(0)
  since_t = old_t
  since_left = old_left
  since_right = old_right
  since_ms = old_ms
  actor = old_actor

fn clear_besides()
  "Closes the gaps of steps that have ended."
  let kept = 0
  for i in 0..beside_count
    if beside_step[i] >= 0
      beside_step[kept] = beside_step[i]
      beside_output[kept] = beside_output[i]
      beside_t[kept] = beside_t[i]
      beside_left[kept] = beside_left[i]
      beside_right[kept] = beside_right[i]
      beside_ms[kept] = beside_ms[i]
      kept += 1
  beside_count = kept

fn carry_on_beside()
  "Carries on the steps that run beside the others."
  for i in 0..beside_count
    let s = beside_step[i]
    # What steers has nothing new to go by until the next reading.
    if s >= 0 and (brings or beside_t[i] >= t_now or not ENDLESS[s - STEPS])
      actor = i
      since_t = beside_t[i]
      since_left = beside_left[i]
      since_right = beside_right[i]
      since_ms = beside_ms[i]
      during_step(s)
      if not ENDLESS[s - STEPS] and step_ended(s)
        end_step(s)
        beside_step[i] = -1
  actor = -1
  clear_besides()

fn own(output: int)
  "An output has one owner, the latest: whatever else had it beside ends without a last word."
  ${
    needs.besides
      ? `for i in 0..beside_count
    if i == actor
      beside_output[i] = output
    elif beside_output[i] == output
      beside_step[i] = -1
      beside_output[i] = -1`
      : "return"
  }

fn run_wheels(left: num, right: num)
  "The wheels are told once what they have to do."
  if not wheels_told or wheels_left != left or wheels_right != right
    wheels_told = true
    wheels_left = left
    wheels_right = right
    robot_wheels(left, right)
  own(0)

fn stop_wheels(how: text)
  "The wheels stop."
  wheels_told = false
  robot_stop(how)
  own(0)

fn play_tone(hertz: num, ms: num)
  "A tone sounds."
  robot_tone(hertz, ms)
  own(1)

fn play_tune(first: int, count: int)
  "Tones sound one after the other."
  robot_tune(first, count)
  own(1)

fn speak(words: text)
  "Words are spoken."
  robot_say(words)
  own(1)

fn light_lamp(which: int, colour: text, blink_hz: num)
  "A lamp is lit, or goes out."
  robot_lamp(IDS_OF_LAMPS[which], colour, blink_hz)
  own(2 + which)

fn turn_servo(which: int, degrees: num, degrees_per_second: num)
  "A servo turns."
  servo_at[which] = degrees
  robot_servo(IDS_OF_SERVOS[which], degrees, degrees_per_second)
  own(2 + LAMPS + which)

fn set_gate(which: int, open: bool)
  "A gate opens or closes."
  let fired = nan
  if depth > 0 and frame_eye[depth - 1] >= 0
    fired = frame_t[depth - 1]
  move_gate(which, open, response, fired)

fn move_gate(which: int, open: bool, by: int, fired: num)
  "A gate is told to move, if it is not there."
  if gate_open[which] == open
    return
  gate_open[which] = open
  robot_gate(IDS_OF_GATES[which], open)
  robot_note("gate", IDS_OF_GATES[which], "open" if open else "close", IDS_OF_RESPONSES[by] if by >= 0 else "", fired)

fn send_piece(crate: int, no_piece: text, no_gate: text)
  "Lets the piece that fired go into a crate: its gate opens and closes by the belt's own way."
  let top = depth - 1
  let eye = frame_eye[top]
  if eye < 0
    robot_note("trouble", no_piece, "", "", 0.0)
    return
  let which = -1
  for i in 0..GATES
    if which < 0 and GATE_CRATE[i] == crate and GATE_AT[i] > LOOKS_AT[eye]
      which = i
  if which < 0
    robot_note("trouble", no_gate, "", "", 0.0)
    return
  if sent_count >= MOST_SENT
    robot_note("trouble", "too many pieces are under way", "", "", 0.0)
    return
  # With its first reading the piece's edge lay within the spot, or has gone on for at most a period since.
  let pace = abs(wheels_left) if wheels_told else 0.0
  let slack = SPOT_MM[eye] / 2.0 + pace * TOP_SPEED * PERIOD_MS[eye] / 1000.0
  sent_gate[sent_count] = which
  sent_open_at[sent_count] = frame_way[top] + GATE_AT[which] - GATE_REACH[which] / 2.0 - LOOKS_AT[eye] - slack
  sent_close_at[sent_count] = frame_way[top] + GATE_AT[which] + GATE_REACH[which] / 2.0 - LOOKS_AT[eye]
  sent_opened[sent_count] = false
  sent_by[sent_count] = response
  sent_fired[sent_count] = frame_t[top]
  sent_count += 1

fn gate_lead(which: int): num
  "How far the belt goes at most while a gate opens or closes, in mm."
  let pace = max(0.0, wheels_left) if wheels_told else 0.0
  return pace * TOP_SPEED * GATE_TRAVEL_MS[which] * GATE_RESERVE / 1000.0

fn has_passed(i: int): bool
  "Whether a piece has gone by its gate."
  return sent_opened[i] and way_left >= sent_close_at[i]

fn move_gates()
  "Opens and closes gates for what was sent, by how far the belt has gone."
  for i in 0..sent_count
    if not sent_opened[i] and way_left >= sent_open_at[i] - gate_lead(sent_gate[i])
      sent_opened[i] = true
      move_gate(sent_gate[i], true, sent_by[i], sent_fired[i])
  for i in 0..sent_count
    if has_passed(i)
      # It stays open for another that comes sooner than it could close and open again.
      let lead = gate_lead(sent_gate[i])
      let closes = true
      for k in 0..sent_count
        if not has_passed(k) and sent_gate[k] == sent_gate[i] and (sent_opened[k] or sent_open_at[k] - lead <= way_left + lead)
          closes = false
      if closes
        move_gate(sent_gate[i], false, sent_by[i], sent_fired[i])
  let kept = 0
  for i in 0..sent_count
    if not has_passed(i)
      sent_gate[kept] = sent_gate[i]
      sent_open_at[kept] = sent_open_at[i]
      sent_close_at[kept] = sent_close_at[i]
      sent_opened[kept] = sent_opened[i]
      sent_by[kept] = sent_by[i]
      sent_fired[kept] = sent_fired[i]
      kept += 1
  sent_count = kept

fn finish()
  "The behaviour has ended: nothing more is answered."
  finished = true
  active = false
  ${needs.besides ? "beside_count = 0" : ""}
  stop_wheels("brake")
  robot_note("finish", "", "", "", 0.0)
`);
