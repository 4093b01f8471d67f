"""Training samples of bow hands: squares cut, turned, recoloured and spoilt from rendered ones, with the places and depths of the 21 joints."""

import math

import cv2
import numpy as np

import crops as looks

INPUT = 128
CELLS = 32
POINTS = 21
# What the network is shown, mm of a grown player's hand, and the depth that its maps call one.
ACROSS = 190.0
DEPTH = 60.0
# Cosine of the angle from the line of sight (45 degrees) within which a bow counts as seen along itself.
ALONG = 0.7


class Hand:
    """One rendered picture: RGBA pixels, the joints (px, px, mm deeper than the hand's middle) and how the bow lies."""

    def __init__(self, folder: str, label: dict):
        self.pixels = looks.read_picture(folder, label)
        self.room = label["room"]
        # The hand's middle is that of the picture.
        self.middle = np.full(2, self.pixels.shape[0] / 2, np.float32)
        # Pixels of the crop that a millimetre of a grown hand is long.
        self.millimetre = self.pixels.shape[0] / label["across"]
        self.points = np.array(label["points"], np.float32)
        self.bow = np.array(label["bow"], np.float32).reshape(2, 3)

    @property
    def box(self):
        low, high = self.points[:, :2].min(0), self.points[:, :2].max(0)
        return (low + high) / 2, float(max(high - low))


def load(folder: str, validation: bool, known: dict) -> list:
    """As `crops.load`, of hands."""
    return looks.load(folder, validation, known, Hand)


def cut(hand: Hand, shift, across: float, turn: float, stretch=None, border=cv2.BORDER_CONSTANT) -> tuple:
    """The square `across` mm about the hand's middle moved by `shift` mm, turned: picture, points (px and depth), bow."""
    k = INPUT / (across * hand.millimetre)
    c, s = math.cos(turn), math.sin(turn)
    rotation = np.array([[c, -s], [s, c]], np.float32)
    a = rotation * k if stretch is None else (rotation * k) @ stretch
    middle = hand.middle + np.asarray(shift, np.float32) * hand.millimetre
    m = np.hstack([a, (np.array([INPUT / 2, INPUT / 2]) - a @ middle)[:, None]]).astype(np.float32)
    source = hand.pixels
    if k < 0.7:
        source = cv2.GaussianBlur(source, (0, 0), 0.35 / k)
    image = cv2.warpAffine(source, m, (INPUT, INPUT), flags=cv2.INTER_LINEAR, borderMode=border, borderValue=(0, 0, 0, 0))
    # Labels call the middle of the first pixel 0.5, pictures here call it 0.
    places = (hand.points[:, :2] - 0.5) @ m[:, :2].T + m[:, 2]
    bow = hand.bow.copy()
    bow[:, :2] = bow[:, :2] @ rotation.T
    return image, np.hstack([places, hand.points[:, 2:]]), bow


def pick(rng, hands) -> Hand:
    """Any hand; those whose bow points towards the looker or away, where fingers hide one another, twice as often as others."""
    while True:
        hand = hands[rng.integers(len(hands))]
        if abs(hand.bow[0, 2]) > ALONG or rng.random() < 0.5:
            return hand


def sample(rng, hands) -> tuple:
    """
    One training sample: image (3, INPUT, INPUT) in -1..1 RGB, bow (6), points (21, 3) in input pixels and units of
    DEPTH, mask (21) of points inside.
    """
    hand = pick(rng, hands)
    # The bow is known to a few mm and degrees, but where its ends are out of sight only to a few cm along itself.
    shift = rng.normal(0, 5, 2)
    if rng.random() < 0.35:
        shift = shift + hand.bow[0, :2] * np.clip(rng.normal(0, 28), -65, 65)
    scale = math.exp(rng.normal(0, 0.07))
    turn = math.radians(rng.normal(0, 14))
    stretch = np.eye(2, dtype=np.float32) + rng.normal(0, 0.05, (2, 2)).astype(np.float32)
    # How the picture goes on beyond what was rendered should not tell where its middle was.
    border = (cv2.BORDER_CONSTANT, cv2.BORDER_REPLICATE, cv2.BORDER_REFLECT_101)[rng.integers(3)]
    image, points, bow = cut(hand, shift, ACROSS * scale, turn, stretch, border)
    bow = bow + rng.normal(0, 0.03, bow.shape)
    alpha = image[..., 3:].astype(np.float32) / 255
    image = image[..., :3]
    if rng.random() < 0.6:
        image = looks.recolour(rng, image)
    if alpha.min() < 1:
        image = (image * alpha + looks.backdrop(rng, hands, INPUT) * (1 - alpha)).astype(np.uint8)
    image = shade(rng, image)
    image = looks.spoil(rng, looks.recolour(rng, cover(rng, np.ascontiguousarray(image), hands)), INPUT)
    points[:, 2] /= DEPTH
    inside = (points[:, :2] > 1).all(1) & (points[:, :2] < INPUT - 1).all(1)
    return looks.to_input(image), bow.reshape(6).astype(np.float32), points.astype(np.float32), inside.astype(np.float32)


def shade(rng, image: np.ndarray) -> np.ndarray:
    """Light that falls from one side."""
    if rng.random() < 0.5:
        return image
    a = rng.uniform(0, 2 * math.pi)
    y, x = np.mgrid[0:INPUT, 0:INPUT] / INPUT - 0.5
    w = 1 + rng.uniform(0, 0.7) * (x * math.cos(a) + y * math.sin(a))
    return np.clip(image * w[..., None], 0, 255).astype(np.uint8)


def cover(rng, image: np.ndarray, hands) -> np.ndarray:
    """Lays a piece of something before the hand now and then."""
    if rng.random() > 0.12:
        return image
    w, h = rng.integers(8, 36, 2)
    x, y = rng.integers(0, INPUT - 8, 2)
    patch = looks.backdrop(rng, hands, INPUT)[y : y + h, x : x + w]
    image[y : y + h, x : x + w] = patch
    return image
