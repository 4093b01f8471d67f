"""
Trains the hand network on rendered bow hands (`npm run synth -- --hands FROM-TO --out FOLDER`) and writes it as ONNX.

    /usr/bin/python3 training/train_hand.py --crops FOLDER --minutes 40 --threads 2 --out hand.onnx

Needs Debian's python3-torch, python3-numpy, python3-opencv and python3-onnx. Crops that appear in the folder while it runs are
taken in.
"""


import numpy as np
import torch
from torch.nn import functional as F

import crops as looks
import hand_crops as data
from hand_network import HandNetwork
from learning import batches, learn, options
from resume import take_weights

SIGMA = 0.8
COARSE_WEIGHT = 0.15
DEPTH_WEIGHT = 2.0


def in_cells(points: torch.Tensor) -> torch.Tensor:
    return (points + 0.5) * data.CELLS / data.INPUT - 0.5


def targets(at: torch.Tensor) -> torch.Tensor:
    """Gaussians about places in cells, each summing to one: (batch, points, cells, cells)."""
    cells = torch.arange(data.CELLS, dtype=torch.float32)
    gx = torch.exp(-((cells - at[..., :1]) ** 2) / (2 * SIGMA**2))
    gy = torch.exp(-((cells - at[..., 1:2]) ** 2) / (2 * SIGMA**2))
    g = gy[..., :, None] * gx[..., None, :]
    return g / g.sum((-1, -2), keepdim=True).clamp_min(1e-6)


def read(maps: torch.Tensor) -> tuple:
    """Log of the softmax of each place map, mean places in cells, mean depths."""
    heat, deep = maps[:, : data.POINTS], maps[:, data.POINTS :]
    log = heat.flatten(2).log_softmax(-1)
    p = log.exp().view_as(heat)
    cells = torch.arange(data.CELLS, dtype=torch.float32)
    mean = torch.stack([(p.sum(-2) * cells).sum(-1), (p.sum(-1) * cells).sum(-1)], -1)
    return log, mean, (p.detach() * deep).sum((-1, -2))


def loss_of(maps, points, inside):
    log, mean, depth = read(maps)
    at = in_cells(points[..., :2])
    heat = -(targets(at).flatten(2) * log).sum(-1)
    coarse = F.smooth_l1_loss(mean, at, reduction="none").sum(-1)
    deep = F.smooth_l1_loss(depth, points[..., 2], reduction="none", beta=0.1)
    return ((heat + COARSE_WEIGHT * coarse + DEPTH_WEIGHT * deep) * inside).sum() / inside.sum().clamp_min(1)


def validate(network, hands) -> str:
    """Errors on players never trained on, unspoilt, as the product cuts them."""
    network.eval()
    rng = np.random.default_rng(1)
    places, depths = [], []
    for n in range(0, len(hands), 32):
        images, bows, points = [], [], []
        for hand in hands[n : n + 32]:
            image, p, bow = data.cut(hand, rng.normal(0, 3, 2), data.ACROSS, 0.0)
            alpha = image[..., 3:] / 255.0
            images.append(looks.to_input((image[..., :3] * alpha + looks.backdrop(rng, hands, data.INPUT) * (1 - alpha)).astype(np.uint8)))
            bows.append(bow.reshape(6))
            points.append(p)
        with torch.no_grad():
            _, mean, depth = read(network(torch.from_numpy(np.stack(images)), torch.from_numpy(np.stack(bows).astype(np.float32))))
        p = torch.from_numpy(np.stack(points).astype(np.float32))
        places.append(torch.linalg.norm(mean - in_cells(p[..., :2]), dim=-1) * data.ACROSS / data.CELLS)
        depths.append((depth * data.DEPTH - p[..., 2]).abs())
    if not places:
        return "no crops kept for it yet"
    e, d = torch.cat(places), torch.cat(depths)
    fingers = ", ".join(f"{name} {e[:, i : i + 4].median():.1f}" for name, i in (("thumb", 1), ("index", 5), ("middle", 9), ("ring", 13), ("little", 17)))
    return f"places median {e.median():.2f} mm, 90 % {e.flatten().quantile(0.9):.1f} ({fingers}); depths {d.median():.1f}, 90 % {d.flatten().quantile(0.9):.1f}"


def main():
    args = options(40, "hand.onnx")
    loader = batches(data, args.crops, args.seed, 24)
    network = HandNetwork()
    if args.start:
        take_weights(network, args.start, loader, 2)
    known: dict = {}
    average = learn(
        network,
        loader,
        lambda net, batch: loss_of(net(batch[0], batch[1]), *batch[2:]),
        lambda net: validate(net, data.load(args.crops, True, known)),
        args.minutes,
        args.rate,
        args.out,
        args.keep,
    )
    example = (torch.zeros(1, 3, data.INPUT, data.INPUT), torch.zeros(1, 6))
    torch.onnx.export(average, example, args.out, input_names=["picture", "bow"], output_names=["maps"], opset_version=13, dynamic_axes={name: {0: "n"} for name in ("picture", "bow", "maps")})


if __name__ == "__main__":
    main()
