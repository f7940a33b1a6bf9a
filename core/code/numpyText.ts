/** A camera whose frames Python looks at with numpy: its form, and the strip that counts. */
export interface QuickCamera {
  own: string;
  width: number;
  height: number;
  bottomFirst: boolean;
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** The same as `label_pixels_…` and `find_blob`, many pixels at a time; where numpy is not there, those stay. */
export const numpyText = (cameras: readonly QuickCamera[]): string => `
# --- With numpy, where it is there, cameras are quicker: the same blobs ---

try:
    import numpy
except ImportError:
    numpy = None

if numpy is not None:
    labels_known = {}

    def label_quickly(classify, width, height, bottom_first, top, bottom, left, right):
        """The labels of a frame's strip; each colour is judged once."""
        global pixels
        known = labels_known.setdefault(classify, {})
        frame = numpy.asarray(frame_bytes[:3 * width * height], dtype=numpy.int64).reshape(height, width, 3)
        frame = (frame[::-1] if bottom_first else frame)[top:bottom, left:right]
        packed = frame[:, :, 0] * 65536 + frame[:, :, 1] * 256 + frame[:, :, 2]
        colours, which = numpy.unique(packed.ravel(), return_inverse=True)
        for colour in colours.tolist():
            if colour not in known:
                known[colour] = classify(colour >> 16, colour >> 8 & 255, colour & 255)
        pixels = numpy.array([known[colour] for colour in colours.tolist()])[which.ravel()]

    def square_quickly(cells, by, every):
        """The same as clean_mask."""
        for axis in (0, 1):
            ends = [(0, 0), (0, 0)]
            ends[axis] = (by, by)
            wider = numpy.pad(cells, ends)
            size = cells.shape[axis]
            for k in range(2 * by + 1):
                part = wider[k:k + size] if axis == 0 else wider[:, k:k + size]
                cells = part if k == 0 else (cells & part if every else cells | part)
        return cells

    def find_blob(label, place, wide, high, erode, dilate, least):
        """The largest blob, from the runs of each row."""
        cells = (pixels == label).reshape(high, wide)
        cells = square_quickly(square_quickly(cells, erode, True), dilate, False)
        steps = numpy.diff(numpy.pad(cells.astype(numpy.int8), ((0, 0), (1, 1))), axis=1)
        rows, starts = numpy.nonzero(steps == 1)
        ends = numpy.nonzero(steps == -1)[1]
        whole = list(range(len(rows)))

        def root(i):
            while whole[i] != i:
                whole[i] = whole[whole[i]]
                i = whole[i]
            return i

        runs = list(zip(rows.tolist(), starts.tolist(), ends.tolist()))
        up = 0
        for i, (row, start, end) in enumerate(runs):
            while runs[up][0] < row - 1 or runs[up][0] == row - 1 and runs[up][2] < start:
                up += 1
            k = up
            while runs[k][0] == row - 1 and runs[k][1] <= end:
                a, b = root(i), root(k)
                whole[max(a, b)] = min(a, b)
                k += 1
        found = {}
        for i, (row, start, end) in enumerate(runs):
            area, top, left, bottom, right = found.get(root(i), (0, row, start, row, end))
            found[root(i)] = (area + end - start, min(top, row), min(left, start), max(bottom, row), max(right, end))
        best = (0, 0, 0, 0, 1)
        for blob in found.values():
            if blob[0] >= least and (-blob[0], blob[1], blob[2]) < (-best[0], best[1], best[2]):
                best = blob
        area, top, left, bottom, right = best
        values = [area, right - left, bottom - top + 1, left + (right - left - 1) / 2.0, (top + bottom) / 2.0]
        blobs[place:place + 5] = [float(value) for value in values]
${cameras
  .map(
    ({ own, width, height, bottomFirst, top, bottom, left, right }) => `
    def label_pixels_${own}():
        """What each pixel of the strip is taken for."""
        label_quickly(classify_${own}, ${width}, ${height}, ${bottomFirst ? "True" : "False"}, ${top}, ${bottom}, ${left}, ${right})
`,
  )
  .join("")}`;
