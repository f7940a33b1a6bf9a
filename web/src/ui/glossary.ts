/** The words that need a line of explanation where they stand; the guide's glossary has the same. */
export const GLOSSARY = {
  "kinds of target":
    "A tag is a mark that the robot passes over, a piece a thing to be sorted, a card is held before the sensor; a background is what must not be mistaken for any of them, such as the floor.",
  margin:
    "How far a decision is from flipping, from −1 to 1: 0.05 means that a reading may change by 5 % of a feature’s range before it is taken for something else.",
  "reject distance":
    "A reading that lies farther than this from every reference is unknown. A larger distance recognises more and mistakes more.",
  "same visit within":
    "A target that is lost and comes back within this time was not left: it is the same visit and is answered once.",
  jot: "Add the target just seen to a list, to do something with all of them later, in their order.",
  "dead band": "Below this share of its top speed an unregulated motor does not turn.",
  regulated:
    "A regulated motor keeps its speed whatever the load. One that is not runs a few per cent off, each time alike.",
  bogie:
    "A pair of axles that turns in the rail’s direction. The middles of a carrier’s two bogies lie on the rail; its body is the straight line between them.",
  clears:
    "The length of belt from which an open gate takes pieces into its crate. A piece that lies only partly within it when the gate opens or closes is jammed.",
  "rule set": "The rules, references and steadying by which a sensor sees. Several sensors may share one.",
} as const;

export type GlossaryWord = keyof typeof GLOSSARY;
