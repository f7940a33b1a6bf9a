import { useLayoutEffect, useRef } from "react";

/** A canvas that is drawn anew whenever `draw` is another function; coordinates are CSS pixels. */
export function Canvas(props: {
  width: number;
  height: number;
  draw: (context: CanvasRenderingContext2D) => void;
  label?: string;
}) {
  const { width, height, draw, label } = props;
  const ref = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const canvas = ref.current;
    if (canvas === null || width <= 0 || height <= 0) return;
    const scale = window.devicePixelRatio || 1;
    canvas.width = Math.round(width * scale);
    canvas.height = Math.round(height * scale);
    const context = canvas.getContext("2d");
    if (context === null) return;
    context.scale(scale, scale);
    draw(context);
  }, [width, height, draw]);
  return (
    <canvas
      ref={ref}
      style={{ width, height, display: "block" }}
      {...(label ? { role: "img", "aria-label": label } : { "aria-hidden": true })}
    />
  );
}
