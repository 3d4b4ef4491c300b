"""Still lifes by ray marching distance fields in NumPy: fruit, a bowl, a table, window light."""

from collections.abc import Callable

import numpy as np
from msgspec import Struct

Array = np.ndarray
Field = Callable[[Array], Array]
KEY = np.array([-0.62, 0.62, 0.48], np.float32) / np.float32(np.linalg.norm([-0.62, 0.62, 0.48]))


def dot(a: Array, b: Array) -> Array:
    return np.einsum("ij,ij->i", a, np.broadcast_to(b, a.shape))


def unit(v: Array) -> Array:
    return v / np.maximum(np.linalg.norm(v, axis=-1, keepdims=True), 1e-9)


def mix(a: Array, b: Array, t: Array) -> Array:
    return a + (np.asarray(b, np.float32) - a) * t[:, None]


def noise(p: Array, seed: int) -> Array:
    """Smooth value noise in three dimensions, 0 to 1."""
    cell = np.floor(p).astype(np.int64)
    f = p - cell
    f = f * f * (3 - 2 * f)

    def corner(dx: int, dy: int, dz: int) -> Array:
        c = cell + np.array([dx, dy, dz])
        h = (c[:, 0] * 73856093 ^ c[:, 1] * 19349663 ^ c[:, 2] * 83492791 ^ seed * 2654435761) & 0x7FFFFFFF
        h = ((h >> 13) ^ h) * 1274126177 & 0x7FFFFFFF
        return (((h >> 16) ^ h) & 0xFFFF).astype(np.float32) / 65535

    def along(a: Array, b: Array, t: Array) -> Array:
        return a + (b - a) * t

    x0 = along(
        along(corner(0, 0, 0), corner(1, 0, 0), f[:, 0]), along(corner(0, 1, 0), corner(1, 1, 0), f[:, 0]), f[:, 1]
    )
    x1 = along(
        along(corner(0, 0, 1), corner(1, 0, 1), f[:, 0]), along(corner(0, 1, 1), corner(1, 1, 1), f[:, 0]), f[:, 1]
    )
    return along(x0, x1, f[:, 2])


def cloud(p: Array, seed: int, octaves: int = 4) -> Array:
    """Several octaves of noise, 0 to 1."""
    parts = [noise(p * 2.03**i, seed + i) / 2**i for i in range(octaves)]
    return sum(parts) / sum(2.0**-i for i in range(octaves))


class Thing(Struct):
    """A solid: its distance field, its skin (colour at points in its own space) and how it shines."""

    field: Field
    skin: Field
    gloss: float = 0.5
    place: tuple[float, float, float] = (0, 0, 0)
    lean: tuple[float, float] = (0, 0)
    size: float = 1.0

    def local(self, p: Array) -> Array:
        q = (p - np.array(self.place, np.float32)) / self.size
        for axis, angle in ((2, self.lean[0]), (0, self.lean[1])):
            c, s = np.float32(np.cos(angle)), np.float32(np.sin(angle))
            i, j = ((0, 1), (1, 2))[axis == 0]
            q = q.copy()
            q[:, i], q[:, j] = c * q[:, i] + s * q[:, j], -s * q[:, i] + c * q[:, j]
        return q

    def distance(self, p: Array) -> Array:
        """Exact far away by its bounding ball, by the field near to."""
        ball = np.linalg.norm(p - np.array(self.place, np.float32), axis=1) - 1.75 * self.size
        near = ball < 0.35
        out = ball + 0.2
        if near.any():
            out[near] = self.field(self.local(p[near])) * self.size
        return out


def apple(p: Array) -> Array:
    r = np.linalg.norm(p, axis=1)
    angle = np.arccos(np.clip(p[:, 1] / np.maximum(r, 1e-6), -1, 1))
    lobes = 1 + 0.018 * np.cos(5 * np.arctan2(p[:, 2], p[:, 0])) * (angle / np.pi) ** 2
    radius = (
        1
        - 0.42 * np.exp(-((angle / 0.42) ** 2))
        - 0.2 * np.exp(-(((np.pi - angle) / 0.34) ** 2))
        - 0.06 * np.clip(angle - 1.7, 0, 2)
    ) * lobes
    body = (r - radius) * 0.55
    return np.minimum(body, stem(p, 0.42, 1.22))


def stem(p: Array, low: float, high: float) -> Array:
    t = np.clip((p[:, 1] - low) / (high - low), 0, 1)
    bend = np.stack([0.16 * t * t, low + t * (high - low), 0.05 * t], 1)
    return (np.linalg.norm(p - bend, axis=1) - (0.032 + 0.03 * t**4)) * 0.8


def pear(p: Array) -> Array:
    low = np.linalg.norm(p - np.array([0, -0.28, 0], np.float32), axis=1) - 0.74
    high = np.linalg.norm(p - np.array([0.04, 0.62, 0], np.float32), axis=1) - 0.34
    k = 0.62
    h = np.clip(0.5 + 0.5 * (high - low) / k, 0, 1)
    body = high + (low - high) * h - k * h * (1 - h)
    dimple = np.linalg.norm(p - np.array([0, -1.12, 0], np.float32), axis=1) - 0.16
    return np.minimum(np.maximum(body, -dimple) * 0.8, stem(p, 0.92, 1.5))


def bowl(p: Array) -> Array:
    shell = np.abs(np.linalg.norm(p - np.array([0, 0.55, 0], np.float32), axis=1) - 1.5) - 0.045
    rim = np.maximum(shell, p[:, 1] - 0.28)
    foot = np.maximum(np.abs(np.hypot(p[:, 0], p[:, 2]) - 0.52) - 0.07, np.abs(p[:, 1] + 0.95) - 0.09)
    return np.minimum(rim, foot) * 0.85


def leaf(p: Array) -> Array:
    curl = p[:, 1] - 0.25 * p[:, 2] ** 2 + 0.18 * p[:, 0] ** 2
    flat = np.hypot(p[:, 0] / 0.9, p[:, 2] / (0.4 * np.clip(1.1 - 0.35 * p[:, 0], 0.3, 2))) - 1
    return np.maximum(flat * 0.3, np.abs(curl) - 0.012) * 0.6


def _around(p: Array) -> tuple[Array, Array]:
    return np.arctan2(p[:, 2], p[:, 0]), p[:, 1]


def _stem_over(skin: Array, p: Array, above: float) -> Array:
    on = ((np.hypot(p[:, 0] - 0.08, p[:, 2]) < 0.15) & (p[:, 1] > above)).astype(np.float32)
    return mix(skin, (0.16, 0.1, 0.05), on)


def red_apple(seed: int, blush: float = 0.5) -> Field:
    """Streaks along the meridians over a yellow ground, with pale lenticels."""

    def skin(p: Array) -> Array:
        turn, height = _around(p)
        ring = np.stack([np.cos(turn) * 7, height * 1.1, np.sin(turn) * 7], 1)
        streak = cloud(ring * 1.6, seed, 4)
        side = 0.5 + 0.5 * np.sin(turn + seed)
        red = np.clip(1.9 * (streak - 0.42) + 1.1 * side + blush - 0.55 * (height > 0.55) * (height - 0.55) * 2, 0, 1)
        colour = mix(np.full((len(p), 3), (0.72, 0.55, 0.13), np.float32), (0.47, 0.035, 0.03), red)
        colour = mix(colour, (0.22, 0.012, 0.02), np.clip(2.4 * (streak - 0.6), 0, 0.7) * red)
        fleck = np.clip(14 * (noise(p * 26, seed + 9) - 0.86), 0, 1) * 0.45
        return _stem_over(mix(colour, (0.85, 0.68, 0.42), fleck), p, 0.62)

    return skin


def green_pear(seed: int) -> Field:
    """Green to gold with russet round the stalk and freckles."""

    def skin(p: Array) -> Array:
        turn, height = _around(p)
        gold = np.clip(0.5 + 0.6 * np.sin(turn + seed) + 0.9 * (cloud(p * 2.2, seed) - 0.5), 0, 1)
        colour = mix(np.full((len(p), 3), (0.36, 0.38, 0.075), np.float32), (0.66, 0.43, 0.085), gold)
        russet = np.clip(1.6 * (height - 0.55) + 2.2 * (cloud(p * 5, seed + 3) - 0.52), 0, 0.75)
        colour = mix(colour, (0.36, 0.2, 0.07), russet)
        freckle = np.clip(16 * (noise(p * 30, seed + 5) - 0.8), 0, 1) * 0.5
        return _stem_over(mix(colour, (0.27, 0.16, 0.06), freckle), p, 0.97)

    return skin


def plain(colour: tuple[float, float, float], speckle: float = 0.0) -> Field:
    def skin(p: Array) -> Array:
        tone = 1 + speckle * (cloud(p * 18, 4, 3) - 0.5)
        return np.asarray(colour, np.float32) * tone[:, None]

    return skin


def wood(p: Array) -> Array:
    """Planks along x with grain; the table's own skin."""
    plank = np.floor(p[:, 2] / 1.35)
    along = np.stack([p[:, 0] * 0.35 + plank * 17, plank * 3.1, p[:, 2] * 5.5], 1)
    grain = cloud(along + 0.5 * cloud(p * 0.7, 3, 2)[:, None], 11, 5)
    fine = noise(np.stack([p[:, 0] * 2.0, plank, p[:, 2] * 46], 1), 5)
    base = mix(
        np.full((len(p), 3), (0.085, 0.052, 0.032), np.float32), (0.2, 0.128, 0.075), np.clip(2 * grain - 0.5, 0, 1)
    )
    gap = np.abs(p[:, 2] / 1.35 - plank - 0.5) > 0.492
    return base * (0.82 + 0.25 * fine - 0.6 * gap)[:, None]


class Scene(Struct):
    """Things on a table before a wall; ``cut_out`` leaves the table and the wall away (alpha 0)."""

    things: list[Thing]
    eye: tuple[float, float, float]
    look: tuple[float, float, float]
    lens: float
    wall: tuple[float, float, float] = (0.055, 0.06, 0.058)
    warmth: tuple[float, float, float] = (1.0, 0.9, 0.76)
    table: Field | None = None
    cut_out: bool = False

    def nearest(self, p: Array) -> tuple[Array, Array]:
        every = [thing.distance(p) for thing in self.things]
        every.append(np.full(len(p), 9.0, np.float32) if self.cut_out else p[:, 1])
        stack = np.stack(every)
        which = stack.argmin(0)
        return stack[which, np.arange(len(p))], which


def _march(scene: Scene, origin: Array, ray: Array, far: float, steps: int) -> tuple[Array, Array]:
    t = np.full(len(ray), 0.02, np.float32)
    hit = np.full(len(ray), -1)
    live = np.arange(len(ray))
    for _ in range(steps):
        d, which = scene.nearest(origin[live] + ray[live] * t[live, None])
        close = d < 0.0009 * np.maximum(t[live], 1)
        hit[live[close]] = which[close]
        t[live] += np.where(close, 0, d)
        live = live[~close & (t[live] < far)]
        if not len(live):
            break
    return t, hit


def _shade(scene: Scene, p: Array, n: Array, light: Array) -> Array:
    """Soft shadow: 1 in full light."""
    lit, t = np.ones(len(p), np.float32), np.full(len(p), 0.03, np.float32)
    live = np.flatnonzero(dot(n, light) > 0)
    for _ in range(36):
        d, _which = scene.nearest(p[live] + light * t[live, None])
        lit[live] = np.minimum(lit[live], np.clip(0.5 + 3.2 * d / t[live], 0, 1))
        t[live] += np.clip(d, 0.03, 0.4)
        live = live[(lit[live] > 0.01) & (t[live] < 7)]
        if not len(live):
            break
    return lit * lit * (3 - 2 * lit)


def _window(direction: Array) -> Array:
    """What a shiny skin mirrors: a tall window with a bar, upper left, and a dim room."""
    side, up = direction @ np.array([0.62, 0, 0.78], np.float32), direction[:, 1]
    facing = direction @ KEY > 0.55
    pane = (np.abs(side + 0.05) < 0.24) & (np.abs(up - 0.62) < 0.25) & facing
    bar = (np.abs(side + 0.05) < 0.016) | (np.abs(up - 0.62) < 0.014)
    return np.where(pane & ~bar, 3.2, 0.0) + 0.12 * np.clip(up + 0.3, 0, 1)


def render_rows(scene: Scene, width: int, height: int, rows: range) -> Array:
    """RGBA (linear light, float32) of some rows, shape (rows, width, 4)."""
    eye, look = np.array(scene.eye, np.float32), np.array(scene.look, np.float32)
    ahead = unit(look - eye)
    right = unit(np.cross(ahead, np.array([0, 1, 0], np.float32)))
    up = np.cross(right, ahead)
    y, x = np.meshgrid(np.arange(rows.start, rows.stop), np.arange(width), indexing="ij")
    u = ((x + 0.5) / width - 0.5).ravel().astype(np.float32) * (width / height)
    v = (0.5 - (y + 0.5) / height).ravel().astype(np.float32)
    ray = unit(ahead * scene.lens + u[:, None] * right + v[:, None] * up).astype(np.float32)
    origin = np.broadcast_to(eye, ray.shape)
    t, hit = _march(scene, origin, ray, 26.0, 150)
    out = np.zeros((len(ray), 4), np.float32)
    backdrop = (
        np.asarray(scene.wall, np.float32)
        * (0.75 + 1.7 * np.exp(-(((u + 0.22) / 0.42) ** 2 + ((v - 0.1) / 0.4) ** 2)))[:, None]
    )
    out[:, :3] = backdrop * (0.9 + 0.2 * cloud(np.stack([u * 9, v * 9, u * 0], 1), 8))[:, None]
    out[:, 3] = 0 if scene.cut_out else 1
    seen = np.flatnonzero(hit >= 0)
    if len(seen):
        colour = _surface(scene, origin[seen] + ray[seen] * t[seen, None], ray[seen], hit[seen])
        haze = np.clip((t[seen] - 9) / 16, 0, 1) if not scene.cut_out else np.zeros(len(seen), np.float32)
        out[seen, :3] = colour * (1 - haze)[:, None] + out[seen, :3] * haze[:, None]
        out[seen, 3] = 1
    return out.reshape(len(rows), width, 4)


def _surface(scene: Scene, p: Array, ray: Array, hit: Array) -> Array:
    e = np.float32(0.0015)
    steps = np.eye(3, dtype=np.float32) * e
    n = unit(np.stack([scene.nearest(p + s)[0] - scene.nearest(p - s)[0] for s in steps], 1))
    skin = np.zeros_like(p)
    gloss = np.zeros(len(p), np.float32)
    for index, thing in enumerate(scene.things):
        on = hit == index
        if on.any():
            skin[on] = thing.skin(thing.local(p[on]))
            gloss[on] = thing.gloss
    ground = hit == len(scene.things)
    if ground.any():
        skin[ground] = (scene.table or wood)(p[ground])
        gloss[ground] = 0.1
    lit = _shade(scene, p + n * 0.01, n, KEY)
    open_sky = np.ones(len(p), np.float32)
    for reach in (0.06, 0.16, 0.34, 0.6):
        open_sky -= np.clip(reach - scene.nearest(p + n * reach)[0], 0, 1) * (0.5 / reach) * 0.42
    open_sky = np.clip(open_sky, 0.06, 1)
    key = np.clip(dot(n, KEY) * 0.85 + 0.15, 0, 1) * lit
    fill = (0.5 + 0.5 * n[:, 1]) * open_sky
    bounce = np.clip(-n[:, 1] * 0.6 + 0.4, 0, 1) * open_sky
    light = (
        key[:, None] * np.array(scene.warmth, np.float32) * 2.3
        + fill[:, None] * np.array([0.2, 0.24, 0.29], np.float32)
        + bounce[:, None] * np.array([0.13, 0.09, 0.055], np.float32)
    )
    mirror = unit(ray - 2 * dot(ray, n)[:, None] * n)
    fresnel = 0.04 + 0.96 * np.clip(1 + dot(ray, n), 0, 1) ** 5
    sheen = np.clip(dot(mirror, KEY), 0, 1) ** 22 * 0.22 * lit
    shine = gloss * (_window(mirror) * np.clip(fresnel, 0, 0.35) * (0.25 + 0.75 * lit) + sheen)
    return skin * light + shine[:, None] * np.array([1, 0.97, 0.9], np.float32)
