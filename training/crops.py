"""Training samples: squares cut, turned, recoloured and spoilt from rendered crops, with the places of the points in them."""

import glob
import json
import math
import os

import cv2
import numpy as np

from points import MIRRORED, POINTS

INPUT = 192
CELLS = 48

cv2.setNumThreads(1)


def read_picture(folder: str, label: dict) -> np.ndarray:
    """The RGBA pixels of a label's picture."""
    pixels = cv2.imread(os.path.join(folder, label["file"]), cv2.IMREAD_UNCHANGED)
    if pixels is None:
        raise OSError(f"{label['file']} cannot be read")
    if pixels.shape[2] == 3:
        pixels = np.dstack([pixels, np.full(pixels.shape[:2], 255, np.uint8)])
    return pixels


class Crop:
    """One rendered picture: RGBA pixels, the player's region and the points (nan where absent)."""

    def __init__(self, folder: str, label: dict):
        self.pixels = read_picture(folder, label)
        self.room = label["room"]
        self.family = label["family"]
        # Another instrument, or none: nothing is to be found.
        self.empty = label.get("held", "bowed") != "bowed"
        # Shows the body of the instrument from close by.
        self.near = label.get("near", False)
        self.middle = np.array(label["region"]["middle"], np.float32)
        self.side = float(label["region"]["side"])
        places = {name: (u, v) for name, u, v, _ in label["points"]}
        self.points = np.array([places.get(name, (np.nan, np.nan)) for name in POINTS], np.float32)

    @property
    def body(self):
        """Middle of the body: of bridge, fingerboard's end, corners and tail."""
        p = self.points[[2, 3, 4, 5, 6, 7, 9, 10, 11, 12, 13, 14]]
        low, high = np.nanmin(p, 0), np.nanmax(p, 0)
        return (low + high) / 2, float(max(high - low))

    @property
    def box(self):
        p = self.points[:15]
        low, high = np.nanmin(p, 0), np.nanmax(p, 0)
        return (low + high) / 2, float(max(high - low))


def held_out(path: str) -> bool:
    """Players kept for validation, by seed."""
    seed = int(os.path.basename(path).split("-")[1].split(".")[0])
    return seed % 12 == 0


def load(folder: str, validation: bool, known: dict, kind=Crop) -> list:
    """Reads crops that were not read before, each as a `kind`; `known` maps label files to their crops."""
    for path in sorted(glob.glob(os.path.join(folder, "crop-*.json"))):
        if path in known or held_out(path) != validation:
            continue
        with open(path) as file:
            labels = json.load(file)
        try:
            known[path] = [kind(folder, label) for label in labels]
        except OSError:
            continue
    return [crop for crops in known.values() for crop in crops]


def backdrop(rng, crops, size: int) -> np.ndarray:
    """Something to stand behind a player: another room, a gradient, a pattern or cloudy noise."""
    kind = rng.random()
    if kind < 0.5:
        rooms = [c for c in (crops[rng.integers(len(crops))] for _ in range(6)) if c.room]
        for room in rooms:
            pixels = room.pixels[..., :3]
            s = int(rng.uniform(0.3, 0.7) * pixels.shape[0])
            x, y = rng.integers(pixels.shape[1] - s + 1), rng.integers(pixels.shape[0] - s + 1)
            # Another instrument behind would be as right an answer.
            middle, side = room.box
            if abs(middle[0] - x - s / 2) < (side + s) / 2 and abs(middle[1] - y - s / 2) < (side + s) / 2:
                continue
            part = cv2.resize(pixels[y : y + s, x : x + s], (size, size), interpolation=cv2.INTER_LINEAR)
            part = np.rot90(part, rng.integers(4)) if rng.random() < 0.5 else part
            return np.ascontiguousarray(part)
    base = rng.uniform(10, 245, 3)
    if kind < 0.7:
        other = rng.uniform(10, 245, 3)
        a = rng.uniform(0, 2 * math.pi)
        y, x = np.mgrid[0:size, 0:size] / size - 0.5
        w = np.clip(0.5 + (x * math.cos(a) + y * math.sin(a)) * rng.uniform(0.5, 2), 0, 1)[..., None]
        return (base * (1 - w) + other * w).astype(np.uint8)
    if kind < 0.85:
        out = np.empty((size, size, 3), np.uint8)
        out[:] = base
        for _ in range(rng.integers(4, 30)):
            colour = tuple(float(c) for c in rng.uniform(0, 255, 3))
            p, q = rng.integers(-40, size + 40, 2), rng.integers(-40, size + 40, 2)
            if rng.random() < 0.5:
                cv2.line(out, tuple(map(int, p)), tuple(map(int, q)), colour, int(rng.integers(1, 22)), cv2.LINE_AA)
            else:
                cv2.rectangle(out, tuple(map(int, p)), tuple(map(int, q)), colour, -1 if rng.random() < 0.6 else int(rng.integers(1, 8)))
        return out
    n = int(rng.integers(3, 24))
    clouds = rng.uniform(-1, 1, (n, n, 3 if rng.random() < 0.5 else 1)).astype(np.float32) * rng.uniform(20, 120)
    clouds = cv2.resize(np.broadcast_to(clouds, (n, n, 3)).copy(), (size, size), interpolation=cv2.INTER_CUBIC)
    return np.clip(base + clouds, 0, 255).astype(np.uint8)


def recolour(rng, image: np.ndarray) -> np.ndarray:
    """Varnish, light and camera of another kind."""
    hsv = cv2.cvtColor(image, cv2.COLOR_BGR2HSV).astype(np.float32)
    hsv[..., 0] = (hsv[..., 0] + (rng.normal(0, 5) if rng.random() < 0.9 else rng.uniform(-30, 30))) % 180
    hsv[..., 1] = np.clip(hsv[..., 1] * rng.uniform(0.35, 1.35), 0, 255)
    out = cv2.cvtColor(hsv.astype(np.uint8), cv2.COLOR_HSV2BGR).astype(np.float32)
    out = 255 * (out / 255) ** math.exp(rng.normal(0, 0.25))
    out = (out - 128) * rng.uniform(0.65, 1.25) + 128 + rng.normal(0, 14)
    out = out * (1 + rng.normal(0, 0.06, 3))
    if rng.random() < 0.07:
        out[:] = out.mean(-1, keepdims=True)
    return np.clip(out, 0, 255).astype(np.uint8)


def spoil(rng, image: np.ndarray, size: int = INPUT) -> np.ndarray:
    """Blur, noise and compression of a phone's film."""
    if rng.random() < 0.3:
        s = rng.uniform(0.35, 0.9)
        small = cv2.resize(image, None, fx=s, fy=s, interpolation=cv2.INTER_AREA)
        image = cv2.resize(small, (size, size), interpolation=cv2.INTER_LINEAR)
    if rng.random() < 0.3:
        image = cv2.GaussianBlur(image, (0, 0), rng.uniform(0.4, 1.5))
    if rng.random() < 0.15:
        n = int(rng.integers(3, 9))
        kernel = np.zeros((n, n), np.float32)
        a = rng.uniform(0, math.pi)
        c = (n - 1) / 2
        cv2.line(kernel, (round(c - c * math.cos(a)), round(c - c * math.sin(a))), (round(c + c * math.cos(a)), round(c + c * math.sin(a))), 1)
        image = cv2.filter2D(image, -1, kernel / kernel.sum())
    if rng.random() < 0.6:
        sigma = rng.uniform(1, 14)
        image = np.clip(image + rng.normal(0, sigma, image.shape), 0, 255).astype(np.uint8)
    if rng.random() < 0.5:
        ok, data = cv2.imencode(".jpg", image, [cv2.IMWRITE_JPEG_QUALITY, int(rng.integers(25, 90))])
        if ok:
            image = cv2.imdecode(data, cv2.IMREAD_COLOR)
    return image


def cover(rng, image: np.ndarray, crops) -> np.ndarray:
    """Lays a piece of something before the player now and then."""
    for _ in range(rng.integers(0, 3) if rng.random() < 0.35 else 0):
        w, h = rng.integers(10, 60, 2)
        x, y = rng.integers(-10, INPUT - 10, 2)
        x0, y0, x1, y1 = max(0, x), max(0, y), min(INPUT, x + w), min(INPUT, y + h)
        if x1 <= x0 or y1 <= y0:
            continue
        patch = backdrop(rng, crops, INPUT)[y0:y1, x0:x1]
        mask = np.zeros((y1 - y0, x1 - x0), np.uint8)
        if rng.random() < 0.5:
            mask[:] = 255
        else:
            cv2.ellipse(mask, ((x1 - x0) // 2, (y1 - y0) // 2), (max(1, (x1 - x0) // 2), max(1, (y1 - y0) // 2)), 0, 0, 360, 255, -1)
        image[y0:y1, x0:x1] = np.where(mask[..., None] > 0, patch, image[y0:y1, x0:x1])
    return image


def cut(crop: Crop, middle, side: float, turn: float, shear=None) -> tuple:
    """The square of `side` about `middle`, turned by `turn` radians, INPUT pixels across; and the map of points."""
    k = INPUT / side
    c, s = math.cos(turn) * k, math.sin(turn) * k
    a = np.array([[c, -s], [s, c]], np.float32)
    if shear is not None:
        a = a @ shear
    m = np.hstack([a, (np.array([INPUT / 2, INPUT / 2]) - a @ middle)[:, None]]).astype(np.float32)
    area = cv2.INTER_AREA if k < 0.8 else cv2.INTER_LINEAR
    source = crop.pixels
    if k < 0.6:
        source = cv2.GaussianBlur(source, (0, 0), 0.35 / k)
    image = cv2.warpAffine(source, m, (INPUT, INPUT), flags=area if area != cv2.INTER_AREA else cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT, borderValue=(0, 0, 0, 0))
    # Labels call the middle of the first pixel 0.5, pictures here call it 0.
    return image, (crop.points - 0.5) @ m[:, :2].T + m[:, 2]


def sample(rng, crops) -> tuple:
    """
    One training sample: image (3, INPUT, INPUT) in -1..1 RGB, points (17, 2) in input pixels, mask (17) of points inside,
    and whether there is an instrument at all.
    """
    crop = crops[rng.integers(len(crops))]
    if rng.random() < 0.06:
        image = backdrop(rng, crops, INPUT)
        image = spoil(rng, recolour(rng, cover(rng, image, crops)))
        return to_input(image), np.zeros((17, 2), np.float32), np.zeros(17, np.float32), 0.0
    box_middle, box_side = crop.box
    body_middle, body_side = crop.body
    if crop.near or (rng.random() < 0.12 and body_side > 60):
        side = body_side * rng.uniform(1.15, 2.0)
        middle = body_middle + rng.normal(0, 0.1, 2) * body_side
    elif rng.random() < 0.5 and box_side > 20:
        side = box_side * rng.uniform(1.1, 1.9)
        middle = box_middle + rng.normal(0, 0.12, 2) * box_side
    else:
        side = crop.side * rng.uniform(0.8, 1.5)
        middle = crop.middle + rng.normal(0, 0.09, 2) * crop.side
    turn = math.radians(rng.normal(0, 12) if rng.random() < 0.85 else rng.uniform(-45, 45))
    stretch = rng.normal(0, 0.05, (2, 2)).astype(np.float32)
    image, points = cut(crop, middle, side, turn, np.eye(2, dtype=np.float32) + stretch)
    alpha = image[..., 3:].astype(np.float32) / 255
    image = image[..., :3]
    if rng.random() < 0.5:
        # The player's own colours vary apart from those of the room.
        image = recolour(rng, image)
    if alpha.min() < 1:
        image = (image * alpha + backdrop(rng, crops, INPUT) * (1 - alpha)).astype(np.uint8)
    image = spoil(rng, recolour(rng, cover(rng, np.ascontiguousarray(image), crops)))
    if rng.random() < 0.2:
        image = image[:, ::-1]
        points = points[MIRRORED] * np.array([-1, 1], np.float32) + np.array([INPUT - 1, 0], np.float32)
    inside = np.isfinite(points).all(1) & (np.nan_to_num(points, nan=-1) > 1).all(1) & (np.nan_to_num(points, nan=-1) < INPUT - 1).all(1)
    if crop.empty:
        return to_input(image), np.zeros((17, 2), np.float32), np.zeros(17, np.float32), 0.0
    return to_input(image), np.nan_to_num(points).astype(np.float32), inside.astype(np.float32), 1.0


def to_input(image: np.ndarray) -> np.ndarray:
    return np.ascontiguousarray(image[..., ::-1].transpose(2, 0, 1)).astype(np.float32) / 127.5 - 1
