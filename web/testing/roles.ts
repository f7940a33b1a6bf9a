/** A name to find: all of it, or a pattern. */
export type Name = string | RegExp;

/** A name to find, as it goes to the page. */
export type Named = { text: string } | { pattern: string; flags: string };

export const named = (name: Name): Named =>
  typeof name === "string" ? { text: name } : { pattern: name.source, flags: name.flags };

declare global {
  /** The elements of a role whose name is as asked, in the order of the page. Those that nobody is told of are left out. */
  function byRole(role: string, name: Named): HTMLElement[];
  /** The name of an element, as it is computed for who listens to the page. */
  function nameOf(element: Element): string;
}

/**
 * Has the page find elements by role and name (HTML-AAM 1.0; accname 1.2, as far as this page needs it). The browser's
 * own accessibility tree tells the same, and takes longer: each question has it made anew. That both agree is held at
 * every stage by access.test. Runs in the page.
 */
export function findByRole(): void {
  const SELECTORS: Readonly<Record<string, string>> = {
    alert: "",
    alertdialog: "",
    application: "",
    article: "article",
    button: "button, summary",
    checkbox: "input[type=checkbox]",
    combobox: "",
    dialog: "dialog",
    grid: "",
    group: "fieldset, details",
    heading: "h1, h2, h3, h4, h5, h6",
    image: "img, [role=img]",
    link: "a[href]",
    list: "ul, ol",
    listbox: "",
    listitem: "li",
    log: "",
    menuitem: "",
    meter: "meter",
    navigation: "nav",
    option: "option",
    progressbar: "progress",
    radio: "input[type=radio]",
    radiogroup: "",
    region: "section[aria-label], section[aria-labelledby]",
    slider: "input[type=range]",
    spinbutton: "input[type=number]",
    status: "output",
    switch: "",
    tab: "",
    table: "table",
    textbox: "input:not([type]), input[type=text], textarea, [role=combobox]",
    timer: "",
    toolbar: "",
    tooltip: "",
  };
  /** The other word for a role: a text box that offers words is a text box all the same. */
  const ALIKE: Readonly<Record<string, string>> = { image: "img", textbox: "combobox" };
  /** Roles whose name is what they hold, where nothing else names them. */
  const FROM_CONTENT = /^(button|checkbox|heading|link|menuitem|option|radio|switch|tab|tooltip)$/;
  const tidy = (text: string) => text.replace(/\s+/g, " ").trim();

  const isShown = (e: Element) =>
    e.checkVisibility({ visibilityProperty: true }) && e.closest("[aria-hidden=true], [inert]") === null;

  const labelled = (e: Element, seen: Set<Element>): string =>
    (e.getAttribute("aria-labelledby") ?? "")
      .split(/\s+/)
      .map((id) => {
        const by = id === "" ? null : document.getElementById(id);
        return by === null ? "" : textOf(by, seen, true);
      })
      .filter((text) => text !== "")
      .join(" ");

  /** The text of an element within a name. */
  const textOf = (e: Element, seen: Set<Element>, isNamed = false): string => {
    if (seen.has(e) && !isNamed) return "";
    seen.add(e);
    const label = e.getAttribute("aria-label");
    if (label !== null && tidy(label) !== "") return label;
    if (e instanceof HTMLImageElement) return e.alt;
    if (e instanceof HTMLInputElement && !/^(checkbox|radio|range|file)$/.test(e.type)) return e.value;
    if (e instanceof SVGElement && e.tagName === "svg") return e.querySelector(":scope > title")?.textContent ?? "";
    return [...e.childNodes]
      .map((child) => {
        if (child instanceof Text) return child.data;
        if (!(child instanceof Element)) return "";
        const { display, visibility } = getComputedStyle(child);
        if (display === "none" || visibility === "hidden" || child.getAttribute("aria-hidden") === "true") return "";
        const text = textOf(child, seen);
        return display.startsWith("inline") ? text : ` ${text} `;
      })
      .join("");
  };

  const byNative = (e: Element, seen: Set<Element>): string => {
    if (e instanceof HTMLImageElement) return e.alt;
    if (e instanceof HTMLFieldSetElement)
      return textOf(e.querySelector(":scope > legend") ?? e.ownerDocument.body, seen);
    if (e instanceof HTMLTableElement) return e.caption === null ? "" : textOf(e.caption, seen);
    if (e instanceof SVGElement) return e.querySelector(":scope > title")?.textContent ?? "";
    const { labels } = e as HTMLInputElement;
    return labels === undefined || labels === null ? "" : [...labels].map((one) => textOf(one, seen)).join(" ");
  };

  const computed = (e: Element, role: string): string => {
    const by = tidy(labelled(e, new Set([e])));
    if (by !== "") return by;
    const label = tidy(e.getAttribute("aria-label") ?? "");
    if (label !== "") return label;
    const native = tidy(byNative(e, new Set([e])));
    if (native !== "") return native;
    const content = FROM_CONTENT.test(role) ? tidy(textOf(e, new Set())) : "";
    return content !== "" ? content : tidy(e.getAttribute("title") ?? e.getAttribute("placeholder") ?? "");
  };

  const roleOf = (e: Element): string => {
    const own = e.getAttribute("role");
    if (own !== null) return own === "img" ? "image" : own;
    return Object.keys(SELECTORS).find((role) => SELECTORS[role] !== "" && e.matches(SELECTORS[role])) ?? "";
  };

  globalThis.nameOf = (e) => computed(e, roleOf(e));
  globalThis.byRole = (role, name) => {
    const native = SELECTORS[role];
    if (native === undefined) throw new RangeError(`elements of the role ${role} are not looked for`);
    const pattern = "pattern" in name ? new RegExp(name.pattern, name.flags) : null;
    const all = document.querySelectorAll<HTMLElement>(native === "" ? `[role=${role}]` : `[role=${role}], ${native}`);
    return [...all].filter((e) => {
      const own = e.getAttribute("role");
      if (own !== null && own !== role && own !== ALIKE[role]) return false;
      const text = computed(e, role);
      return (pattern === null ? "text" in name && text === name.text : pattern.test(text)) && isShown(e);
    });
  };
}
