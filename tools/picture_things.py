"""More things for still lifes: jars, a woven basket, a grafting knife, twigs with buds."""

import numpy as np

from picture_still_life import Array, Field, cloud, mix, noise


def _rounded_can(p: Array, radius: float, low: float, high: float, edge: float) -> Array:
    """An upright cylinder with rounded edges."""
    across = np.hypot(p[:, 0], p[:, 2]) - radius + edge
    along = np.maximum(p[:, 1] - high, low - p[:, 1]) + edge
    outside = np.hypot(np.maximum(across, 0), np.maximum(along, 0))
    return outside + np.minimum(np.maximum(across, along), 0) - edge


def jar(p: Array) -> Array:
    """A squat jar with a tied cloth over its lid."""
    body = _rounded_can(p, 0.72, -1.0, 0.62, 0.16)
    neck = _rounded_can(p, 0.56, 0.5, 0.86, 0.04)
    turn = np.arctan2(p[:, 2], p[:, 0])
    frill = 0.66 + 0.16 * np.clip(0.82 - p[:, 1], 0, 0.3) + 0.03 * np.sin(turn * 13) * (p[:, 1] < 0.84)
    cloth = np.maximum(np.abs(p[:, 1] - 0.82) - 0.13, np.hypot(p[:, 0], p[:, 2]) - frill) - 0.02
    string = np.hypot(np.hypot(p[:, 0], p[:, 2]) - 0.68, p[:, 1] - 0.79) - 0.025
    return np.minimum(np.minimum(body, neck), np.minimum(cloth, string)) * 0.8


def preserve(
    fruit: tuple[float, float, float], syrup: tuple[float, float, float], cloth: tuple[float, float, float], seed: int
) -> Field:
    """Fruit in syrup behind glass, an empty inch above it, and a checked cloth."""

    def skin(p: Array) -> Array:
        lumps = np.clip(3.2 * (cloud(p * 2.6, seed, 3) - 0.45), 0, 1)
        colour = mix(np.full((len(p), 3), syrup, np.float32), fruit, lumps)
        colour = mix(colour, (0.06, 0.07, 0.06), np.clip((p[:, 1] - 0.36) * 30, 0, 1) * (p[:, 1] < 0.68))
        turn = np.arctan2(p[:, 2], p[:, 0])
        check = (np.sin(turn * 16) > 0).astype(np.float32) * 0.5 + (np.sin(np.hypot(p[:, 0], p[:, 2]) * 34) > 0) * 0.5
        weave = np.full((len(p), 3), (0.62, 0.58, 0.5), np.float32)
        return (
            mix(colour, 0, (p[:, 1] >= 0.66).astype(np.float32)) + mix(weave, cloth, check) * (p[:, 1] >= 0.66)[:, None]
        )

    return skin


def basket(p: Array) -> Array:
    """A round basket of woven willow, with a hoop for a handle."""
    turn, y = np.arctan2(p[:, 2], p[:, 0]), p[:, 1]
    radius = 1.12 + 0.34 * (y + 0.8)
    row = np.floor(y / 0.13)
    weave = 0.045 * np.sin(turn * 20 + np.pi * (row % 2)) * np.abs(np.sin(np.pi * y / 0.13)) ** 0.5
    shell = np.abs(np.hypot(p[:, 0], p[:, 2]) - radius - weave) - 0.07
    wall = np.maximum(shell, np.abs(y + 0.22) - 0.6)
    floor = np.maximum(np.hypot(p[:, 0], p[:, 2]) - 1.15, np.abs(y + 0.78) - 0.05)
    rim = np.hypot(np.hypot(p[:, 0], p[:, 2]) - 1.5, y - 0.4) - (0.1 + 0.014 * np.sin(turn * 40))
    hoop = np.hypot(np.hypot(p[:, 0], np.maximum(y - 0.35, 0) * 0.92) - 1.45, p[:, 2]) - 0.075
    hoop = np.where(y > 0.3, hoop, 9.0)
    return np.minimum(np.minimum(wall, floor), np.minimum(rim, hoop)) * 0.5


def willow(p: Array) -> Array:
    turn, y = np.arctan2(p[:, 2], p[:, 0]), p[:, 1]
    dark = np.abs(np.sin(np.pi * y / 0.13)) ** 0.7
    tone = cloud(np.stack([turn * 9, y * 30, turn * 0], 1), 6, 3)
    colour = mix(np.full((len(p), 3), (0.21, 0.12, 0.055), np.float32), (0.42, 0.27, 0.12), tone)
    return colour * (0.45 + 0.55 * dark)[:, None]


def _rod(
    p: Array, start: tuple[float, float, float], end: tuple[float, float, float], thick: float, thin: float
) -> Array:
    a, b = np.array(start, np.float32), np.array(end, np.float32)
    t = np.clip(((p - a) @ (b - a)) / ((b - a) @ (b - a)), 0, 1)
    return np.linalg.norm(p - a - t[:, None] * (b - a), axis=1) - (thick + (thin - thick) * t)


def twig(p: Array) -> Array:
    """A scion as long as a hand, with buds on alternate sides and a slanting cut."""
    wood = _rod(p, (-1.5, 0, 0), (1.5, 0.03, 0.1), 0.075, 0.055)
    for index in range(6):
        x = -1.1 + 0.46 * index
        side = 1 if index % 2 else -1
        wood = np.minimum(wood, _rod(p, (x, 0.05, 0.05 * side), (x + 0.14, 0.08, 0.13 * side), 0.055, 0.02))
    cut = p[:, 0] * 0.75 + p[:, 1] * 0.6 - 1.02
    return np.maximum(wood, cut) * 0.8


def bark(p: Array) -> Array:
    ring = noise(np.stack([p[:, 0] * 16, p[:, 1] * 3, p[:, 2] * 3], 1), 4)
    colour = mix(np.full((len(p), 3), (0.16, 0.075, 0.045), np.float32), (0.3, 0.17, 0.1), ring)
    fresh = ((p[:, 0] * 0.75 + p[:, 1] * 0.6 - 1.02) > -0.012).astype(np.float32)
    return mix(colour, (0.62, 0.55, 0.3), fresh)


RIVETS = (-1.1, -0.25)


def knife(p: Array) -> Array:
    """A folding grafting knife, open: a straight blade bevelled on one side, a handle with two rivets."""
    handle = _rod(p * np.array([1, 1.25, 0.85], np.float32), (-1.45, 0, 0), (0.1, 0, 0.02), 0.2, 0.17) * 0.8
    tip = np.clip((p[:, 0] - 1.0) / 0.45, 0, 1)
    edge = np.maximum(np.abs(p[:, 2] - 0.02) - 0.15 * (1 - tip**2), np.abs(p[:, 1]) - 0.02)
    blade = np.maximum(edge, np.abs(p[:, 0] - 0.75) - 0.69)
    rivets = np.minimum(*(np.linalg.norm((p - np.array([x, 0.155, 0.01], np.float32)), axis=1) - 0.05 for x in RIVETS))
    return np.minimum(np.minimum(handle, blade), rivets) * 0.7


def knife_skin(p: Array) -> Array:
    grain = cloud(np.stack([p[:, 0] * 2, p[:, 1] * 12, p[:, 2] * 12], 1), 3, 3)
    handle = mix(np.full((len(p), 3), (0.2, 0.07, 0.03), np.float32), (0.36, 0.15, 0.06), grain)
    steel = (p[:, 0] > 0.16).astype(np.float32)
    colour = mix(handle, (0.42, 0.44, 0.45), steel)
    from_rivet = np.minimum(*(np.hypot(p[:, 0] - x, p[:, 2] - 0.01) for x in RIVETS))
    brass = ((p[:, 1] > 0.162) & (from_rivet < 0.055)).astype(np.float32)
    return mix(colour, (0.6, 0.42, 0.14), brass)
