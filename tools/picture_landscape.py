"""Landscapes painted back to front: skies, hills in layers of mist, orchard rows of branching trees."""

import numpy as np
from PIL import Image, ImageDraw, ImageFilter

Array = np.ndarray
TREE_WIDTH = 1.9  # of its height, so that no branch is cut off


def ramp(stops: list[tuple[float, tuple[float, float, float]]], at: Array) -> Array:
    """Tone along ``stops`` (position, RGB 0..1), shape (..., 3)."""
    xs = [s[0] for s in stops]
    return np.stack([np.interp(at, xs, [s[1][i] for s in stops]) for i in range(3)], -1).astype(np.float32)


def soft_noise(height: int, width: int, scale: tuple[float, float], seed: int) -> Array:
    """Smooth noise 0..1 with features of about ``scale`` (rows, columns) of the picture."""
    rng = np.random.default_rng(seed)
    total, weight = np.zeros((height, width), np.float32), 0.0
    for octave in range(5):
        rows, cols = max(2, int(2**octave / scale[0]) + 2), max(2, int(2**octave / scale[1]) + 2)
        small = Image.fromarray(rng.random((rows, cols), np.float32))
        total += np.asarray(small.resize((width, height), Image.BICUBIC)) / 1.8**octave
        weight += 1 / 1.8**octave
    return total / weight


def ridge(width: int, base: float, swing: float, seed: int, rough: float = 0.5) -> Array:
    """A hill's outline: height 0..1 of the picture for each column."""
    rng = np.random.default_rng(seed)
    x = np.linspace(0, 1, width)
    line = np.zeros(width)
    for octave in range(1, 8):
        line += np.sin(2 * np.pi * (octave * rng.uniform(0.5, 1.3) * x + rng.random())) * rough**octave
    return base + swing * line


class Canvas:
    """A picture in linear-ish RGB floats, painted from the far end to the near."""

    def __init__(self, width: int, height: int, sky: list[tuple[float, tuple[float, float, float]]], seed: int) -> None:
        self.width, self.height = width, height
        self.rng = np.random.default_rng(seed)
        self.rgb = ramp(sky, np.linspace(0, 1, height))[:, None].repeat(width, 1).copy()

    def glow(self, x: float, y: float, radius: float, colour: tuple[float, float, float], strength: float) -> None:
        """Light round the sun or a window."""
        v, u = np.mgrid[0 : self.height, 0 : self.width].astype(np.float32)
        d2 = ((u / self.width - x) * self.width / self.height) ** 2 + (v / self.height - y) ** 2
        self.rgb += strength * np.exp(-d2 / radius**2)[..., None] * np.array(colour, np.float32)

    def cloud(self, top: float, bottom: float, colour: tuple[float, float, float], strength: float, seed: int) -> None:
        field = soft_noise(self.height, self.width, (0.09, 0.5), seed)
        v = np.linspace(0, 1, self.height)[:, None]
        band = np.clip((v - top) / 0.08, 0, 1) * np.clip((bottom - v) / 0.12, 0, 1)
        self.lay(np.clip((field - 0.47) * 4, 0, 1) * band * strength, np.array(colour, np.float32))

    def lay(self, cover: Array, colour: Array) -> None:
        """Paint ``colour`` (RGB or a picture of it) where ``cover`` (0..1) says."""
        self.rgb += (colour - self.rgb) * cover[..., None]

    def hill(
        self,
        line: Array,
        near: tuple[float, float, float],
        foot: tuple[float, float, float],
        seed: int,
        grain: float = 0.12,
    ) -> None:
        """A hill below ``line``: ``near`` colour at its crest fading to ``foot`` (mist) downwards."""
        v = np.arange(self.height, dtype=np.float32)[:, None] / self.height
        depth = v - line[None].astype(np.float32)
        cover = np.clip(depth * self.height, 0, 1)
        texture = soft_noise(self.height, self.width, (0.012, 0.03), seed) - 0.5
        colour = ramp([(0, near), (0.28, foot)], np.clip(depth, 0, 1)) * (1 + grain * texture[..., None])
        self.lay(cover, colour)

    def mist(self, level: float, spread: float, colour: tuple[float, float, float], strength: float, seed: int) -> None:
        v = np.linspace(0, 1, self.height)[:, None]
        field = 0.55 + 0.9 * (soft_noise(self.height, self.width, (0.1, 0.6), seed) - 0.5)
        self.lay(np.clip(strength * field * np.exp(-(((v - level) / spread) ** 2)), 0, 1), np.array(colour, np.float32))

    def stamp(self, mask: Image.Image, x: int, y: int, colour: tuple[float, float, float], strength: float) -> None:
        """Paint a mask with its lower middle at (x, y)."""
        left, top = x - mask.width // 2, y - mask.height
        x0, y0, x1, y1 = (
            max(left, 0),
            max(top, 0),
            min(left + mask.width, self.width),
            min(top + mask.height, self.height),
        )
        if x1 <= x0 or y1 <= y0:
            return
        part = np.asarray(mask, np.float32)[y0 - top : y1 - top, x0 - left : x1 - left, None] / 255 * strength
        self.rgb[y0:y1, x0:x1] += (np.array(colour, np.float32) - self.rgb[y0:y1, x0:x1]) * part

    def picture(self, grain: float = 0.012, vignette: float = 0.16) -> Image.Image:
        """The finished photograph, with grain and a slight fall-off at the corners."""
        v, u = np.mgrid[-1 : 1 : self.height * 1j, -1 : 1 : self.width * 1j]
        out = self.rgb * (1 - vignette * np.clip(u * u + v * v - 0.35, 0, 2) / 1.65)[..., None]
        return develop(out, self.rng, grain)


def develop(rgb: Array, rng: np.random.Generator, grain: float) -> Image.Image:
    """Display RGB floats to an 8-bit picture with film-like grain."""
    shape = rgb.shape[:2]
    film = rng.normal(0, 1, shape).astype(np.float32)
    film = film + 0.6 * (np.roll(film, 1, 0) + np.roll(film, 1, 1))
    noisy = rgb + grain * 0.75 * film[..., None]
    return Image.fromarray((np.clip(noisy, 0, 1) * 255 + rng.random((*shape, 1))).clip(0, 255).astype(np.uint8))


def tree(height: int, rng: np.random.Generator, leaves: float = 0.0, spread: float = 0.62) -> Image.Image:
    """An orchard tree's cover (L), pruned to an open goblet; ``leaves`` 0 bare to 1 full."""
    over = 3
    size = height * over
    image = Image.new("L", (int(size * TREE_WIDTH), size), 0)
    draw = ImageDraw.Draw(image)
    twigs: list[tuple[float, float]] = []

    def branch(x: float, y: float, angle: float, length: float, thick: float, depth: int) -> None:
        for _ in range(4):
            angle += rng.normal(0, 0.1) - 0.05 * angle * (depth < 3)
            nx, ny = x + np.sin(angle) * length / 4, y - np.cos(angle) * length / 4
            draw.line([(x, y), (nx, ny)], fill=255, width=max(1, round(thick)))
            if thick > 3:
                r = thick / 2
                draw.ellipse([nx - r, ny - r, nx + r, ny + r], fill=255)
            x, y, thick = nx, ny, thick * 0.93
        if depth == 0 or length < size * 0.012:
            twigs.append((x, y))
            return
        for k in range(int(rng.integers(2, 4))):
            turn = (k - 0.8) * spread * rng.uniform(0.55, 1.1) + rng.normal(0, 0.16)
            branch(x, y, angle + turn, length * rng.uniform(0.62, 0.83), thick * 0.66, depth - 1)

    trunk = size * 0.24
    start = rng.normal(0, 0.08)
    draw.line([(image.width / 2, size), (image.width / 2, size - 4)], fill=255, width=max(2, int(size * 0.04)))
    branch(image.width / 2, size, start, trunk, size * 0.04, 7)
    if leaves:
        for x, y in twigs:
            for _ in range(int(11 * leaves) + 1):
                r = size * rng.uniform(0.0025, 0.008)
                cx, cy = x + rng.normal(0, size * 0.02), y + rng.normal(0, size * 0.02)
                draw.ellipse([cx - r, cy - r * 0.7, cx + r, cy + r * 0.7], fill=int(rng.integers(120, 256)))
    return image.resize((image.width // over, height), Image.LANCZOS)


def orchard(
    canvas: Canvas,
    horizon: float,
    vanish: float,
    near: tuple[float, float, float],
    far: tuple[float, float, float],
    *,
    rows: int,
    leaves: float,
    clear: float,
    apples: tuple[float, float, float] | None = None,
    shadow: tuple[float, float, float] | None = None,
    first: float = 1.0,
) -> None:
    """Rows of trees running to a vanishing point; ``far`` is the mist they fade to, ``clear`` how fast."""
    rng = canvas.rng
    shapes = [tree(max(240, int(canvas.height * 0.36)), rng, leaves) for _ in range(7)]
    for depth in np.geomspace(14, first, 22):
        fade = 1 - np.exp(-(depth - 1) / clear)
        colour = tuple(n + (f - n) * fade for n, f in zip(near, far, strict=True))
        ground = horizon + (1.06 - horizon) / depth
        tall = int(canvas.height * 0.62 / depth)
        for row in range(-rows, rows + 1):
            if row == 0:
                continue
            x = vanish + (row - 0.5 * np.sign(row)) * 0.62 / depth + rng.normal(0, 0.012) / depth
            if not -0.3 < x < 1.3 or tall < 6:
                continue
            shape = shapes[int(rng.integers(len(shapes)))]
            if rng.random() < 0.5:
                shape = shape.transpose(Image.FLIP_LEFT_RIGHT)
            size = int(tall * rng.uniform(0.88, 1.1))
            mask = shape.resize((max(2, int(size * TREE_WIDTH)), max(2, size)), Image.LANCZOS)
            px, py = int(x * canvas.width), int(ground * canvas.height)
            if shadow:
                cast = mask.transpose(Image.FLIP_TOP_BOTTOM).resize((mask.width, max(2, size // 4)))
                cast = cast.filter(ImageFilter.GaussianBlur(max(1, size / 120)))
                canvas.stamp(cast, px + size // 7, py + cast.height, shadow, 0.5 * (1 - fade))
            canvas.stamp(mask, px, py, colour, 1.0)
            if apples:
                _hang(canvas, rng, px, py, size, apples, far, fade)


def _hang(
    canvas: Canvas,
    rng: np.random.Generator,
    x: int,
    y: int,
    size: int,
    near: tuple[float, ...],
    far: tuple[float, ...],
    fade: float,
) -> None:
    colour = tuple(n + (f - n) * fade for n, f in zip(near, far, strict=True))
    r = max(1, size // 95)
    ball = Image.new("L", (8 * r, 8 * r), 0)
    ImageDraw.Draw(ball).ellipse([r, r, 7 * r, 7 * r], fill=235)
    ball = ball.resize((2 * r, 2 * r), Image.LANCZOS)
    for _ in range(26):
        ax, ay = rng.normal(0, 0.17), rng.uniform(0.45, 0.82)
        canvas.stamp(ball, x + int(ax * size), y - int(ay * size), colour, 0.9)
