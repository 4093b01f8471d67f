"""
Trains the landmark network on rendered crops (`npm run synth -- --crops FROM-TO --out FOLDER`) and writes it as ONNX.

    /usr/bin/python3 training/train.py --crops FOLDER --minutes 60 --out landmarks.onnx

Needs Debian's python3-torch, python3-numpy, python3-opencv and python3-onnx. Two cores, under two hours; crops that appear in the
folder while it runs are taken in.
"""

import math

import numpy as np
import torch
from torch.nn import functional as F

import crops as data
from learning import batches, learn, options
from network import LandmarkNetwork
from points import POINTS
from resume import take_weights

SIGMA = 0.8
COARSE_WEIGHT = 0.15
NOTHING_WEIGHT = 0.15


def targets(points: torch.Tensor) -> torch.Tensor:
    """Gaussians about the points, each summing to one: (batch, points, cells, cells)."""
    cells = torch.arange(data.CELLS, dtype=torch.float32)
    at = (points + 0.5) * data.CELLS / data.INPUT - 0.5
    gx = torch.exp(-((cells - at[..., :1]) ** 2) / (2 * SIGMA**2))
    gy = torch.exp(-((cells - at[..., 1:]) ** 2) / (2 * SIGMA**2))
    g = gy[..., :, None] * gx[..., None, :]
    return g / g.sum((-1, -2), keepdim=True).clamp_min(1e-6)


def soft_places(logits: torch.Tensor) -> torch.Tensor:
    """Mean place of the softmax of each map, in cells."""
    p = logits.flatten(2).softmax(-1).view_as(logits)
    cells = torch.arange(data.CELLS, dtype=torch.float32)
    return torch.stack([(p.sum(-2) * cells).sum(-1), (p.sum(-1) * cells).sum(-1)], -1)


def loss_of(logits, points, inside, there):
    log = logits.flatten(2).log_softmax(-1)
    heat = -(targets(points).flatten(2) * log).sum(-1)
    at = (points + 0.5) * data.CELLS / data.INPUT - 0.5
    coarse = F.smooth_l1_loss(soft_places(logits), at, reduction="none").sum(-1)
    n = inside.sum().clamp_min(1)
    # Where there is no instrument, no place is likelier than another.
    nothing = -log.mean(-1).mean(-1) - math.log(data.CELLS**2)
    return ((heat + COARSE_WEIGHT * coarse) * inside).sum() / n + NOTHING_WEIGHT * (nothing * (1 - there)).sum() / (1 - there).sum().clamp_min(1)


def decode(logits: torch.Tensor) -> tuple:
    """Places in input pixels from the softmax within three cells of each peak, and the mass there."""
    p = logits.flatten(2).softmax(-1).view_as(logits).numpy()
    batch, count = p.shape[:2]
    places = np.zeros((batch, count, 2), np.float32)
    mass = np.zeros((batch, count), np.float32)
    for b in range(batch):
        for c in range(count):
            y, x = divmod(int(p[b, c].argmax()), data.CELLS)
            y0, y1, x0, x1 = max(0, y - 3), min(data.CELLS, y + 4), max(0, x - 3), min(data.CELLS, x + 4)
            part = p[b, c, y0:y1, x0:x1]
            m = part.sum()
            ys, xs = np.mgrid[y0:y1, x0:x1]
            places[b, c] = (np.array([(part * xs).sum(), (part * ys).sum()]) / m + 0.5) * data.INPUT / data.CELLS - 0.5
            mass[b, c] = m
    return places, mass


def validate(network, crops) -> str:
    """Errors on players never trained on, unspoilt, cut as the product cuts them."""
    network.eval()
    rng = np.random.default_rng(1)
    errors, bows, sure, fooled, near = [], [], [], [], []
    for crop in crops:
        if crop.empty:
            image, _ = data.cut(crop, crop.middle, 1.1 * crop.side, 0.0)
            alpha = image[..., 3:] / 255.0
            image = (image[..., :3] * alpha + 128 * (1 - alpha)).astype(np.uint8)
            with torch.no_grad():
                fooled.append(decode(network(torch.from_numpy(data.to_input(image))[None]))[1][0, :15].mean())
            continue
        squares = ((crop.body[0], 1.5 * crop.body[1]),) if crop.near else ((crop.middle, 1.1 * crop.side), (crop.box[0], 1.4 * crop.box[1]))
        for middle, side in squares:
            image, points = data.cut(crop, middle, side, 0.0)
            alpha = image[..., 3:] / 255.0
            image = (image[..., :3] * alpha + data.backdrop(rng, crops, data.INPUT) * (1 - alpha)).astype(np.uint8)
            with torch.no_grad():
                places, mass = decode(network(torch.from_numpy(data.to_input(image))[None]))
            sure.append(mass[0, :15].mean())
            inside = ((points > 1) & (points < data.INPUT - 1)).all(1)
            distance = np.hypot(*(places[0] - points).T)
            (near if crop.near else errors).extend(distance[:15][inside[:15]])
            bows.extend(distance[15:][inside[15:]])
    if not errors:
        return "no crops kept for it yet"
    e, b = np.array(errors), np.array(bows)
    return f"instrument median {np.median(e):.2f} px, 90 % {np.quantile(e, 0.9):.1f}; bow median {np.median(b):.2f}, 90 % {np.quantile(b, 0.9):.1f}; from close by {np.median(near) if near else float('nan'):.2f}; sure {np.median(sure):.2f}, without an instrument {np.median(fooled) if fooled else float('nan'):.2f}"


def main():
    args = options(60, "landmarks.onnx")
    loader = batches(data, args.crops, args.seed, 16)
    network = LandmarkNetwork()
    if args.start:
        take_weights(network, args.start, loader, 1)
    known: dict = {}
    average = learn(
        network,
        loader,
        lambda net, batch: loss_of(net(batch[0]), batch[1], batch[2], batch[3].float()),
        lambda net: validate(net, data.load(args.crops, True, known)),
        args.minutes,
        args.rate,
        args.out,
        args.keep,
    )
    torch.onnx.export(average, torch.zeros(1, 3, data.INPUT, data.INPUT), args.out, input_names=["picture"], output_names=["maps"], opset_version=13, dynamic_axes={"picture": {0: "n"}, "maps": {0: "n"}})


if __name__ == "__main__":
    main()
