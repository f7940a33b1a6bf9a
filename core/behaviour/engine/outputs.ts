import type { int, num } from "../../arithmetic";
import type { Engine } from "./Engine";

/*
 * The outputs by number: wheels, sounder, then each lamp, then each servo.
 */

/** The wheels among the outputs. */
export const WHEELS = 0;
const SOUNDER = 1;
const FIRST_LAMP = 2;

/** An output has one owner, the latest: whatever else had it beside ends without a last word. */
export function own(e: Engine, output: int): void {
  for (let i = 0; i < e.besides; i++) {
    if (i === e.actor) e.besideOutput[i] = output;
    else if (e.besideOutput[i] === output) {
      e.besideAt[i] = -1;
      e.besideOutput[i] = -1;
    }
  }
}

/** Runs the wheels at shares of top speed; they are told only what is new. */
export function runWheels(e: Engine, left: num, right: num): void {
  if (!e.wheelsTold || e.wheelsLeft !== left || e.wheelsRight !== right) {
    e.wheelsTold = true;
    e.wheelsLeft = left;
    e.wheelsRight = right;
    e.robot.wheels(left, right);
  }
  own(e, WHEELS);
}

/** Stops the wheels: they brake, or run out. */
export function stopWheels(e: Engine, coasts: int): void {
  e.wheelsTold = false;
  e.robot.stop(coasts);
  own(e, WHEELS);
}

/** Sounds a tone. */
export function playTone(e: Engine, hertz: num, ms: num): void {
  e.robot.tone(hertz, ms);
  own(e, SOUNDER);
}

/** Plays tones one after the other: pairs of hertz and ms, from a cell on. */
export function playTune(e: Engine, at: int, count: int): void {
  e.robot.tune(at, count);
  own(e, SOUNDER);
}

/** Speaks words. */
export function speak(e: Engine, words: string): void {
  e.robot.say(words);
  own(e, SOUNDER);
}

/** Lights a lamp in a colour 0xRRGGBB; −1 switches it off. */
export function lightLamp(e: Engine, lamp: int, colour: int, blinkHz: num): void {
  e.robot.lamp(lamp, colour, blinkHz);
  own(e, FIRST_LAMP + lamp);
}

/** Turns a servo to an angle. */
export function turnServo(e: Engine, servo: int, degrees: num, degreesPerSecond: num): void {
  e.servoAt[servo] = degrees;
  e.robot.servo(servo, degrees, degreesPerSecond);
  own(e, FIRST_LAMP + e.p.machine.lamps + servo);
}
