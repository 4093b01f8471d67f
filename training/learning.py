"""What training of both networks has in common: an endless course of samples, and the steps from one set of weights to a better one."""

import argparse
import copy
import math
import time

import numpy as np
import torch


def options(minutes: float, out: str) -> argparse.Namespace:
    """What is asked on the command line; chance and threads are set by it."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--crops", required=True)
    parser.add_argument("--minutes", type=float, default=minutes)
    parser.add_argument("--out", default=out)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--threads", type=int, default=1)
    parser.add_argument("--from", dest="start", help="weights to go on from: .pt, or .onnx as in use")
    parser.add_argument("--rate", type=float, default=2.5e-3, help="learning rate to begin with")
    parser.add_argument("--keep", type=float, default=0.0, help="share of the weights gone on from that is kept in what comes out")
    args = parser.parse_args()
    torch.manual_seed(args.seed)
    torch.set_num_threads(args.threads)
    return args


class Samples(torch.utils.data.IterableDataset):
    """An endless course of samples of a module (`load` and `sample`); looks for new crops now and then."""

    def __init__(self, data, folder: str, seed: int):
        self.data, self.folder, self.seed = data, folder, seed

    def __iter__(self):
        worker = torch.utils.data.get_worker_info()
        rng = np.random.default_rng([self.seed, worker.id if worker else 0])
        known: dict = {}
        n = 0
        while True:
            if n % 1500 == 0:
                crops = self.data.load(self.folder, False, known)
            n += 1
            yield self.data.sample(rng, crops)


def batches(data, folder: str, seed: int, size: int):
    return iter(torch.utils.data.DataLoader(Samples(data, folder, seed), batch_size=size, num_workers=1, prefetch_factor=4))


def learn(network, loader, loss_of, validate, minutes: float, rate: float, out: str, keep: float = 0.0):
    """
    Trains for so many minutes and gives the running mean of the weights, which is kept in `out`.pt on the way; at the end
    with a share `keep` of the weights it began with.
    `loss_of(network, batch)` is the loss of a batch, `validate(network)` a line about players kept apart.
    """
    begun = copy.deepcopy(network)
    average = copy.deepcopy(network)
    print(sum(p.numel() for p in network.parameters()), "parameters", flush=True)
    optimiser = torch.optim.AdamW(network.parameters(), lr=rate, weight_decay=0.02)
    print("to begin with:", validate(average), flush=True)
    start = time.time()
    step, running = 0, None
    while (spent := (time.time() - start) / 60 / minutes) < 1:
        now = rate * min(1, (step + 1) / 100) * (1 if spent < 0.3 else 0.5 * (1 + math.cos(math.pi * (spent - 0.3) / 0.7)) + 0.01)
        for group in optimiser.param_groups:
            group["lr"] = now
        batch = next(loader)
        network.train()
        loss = loss_of(network, batch)
        optimiser.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(network.parameters(), 5.0)
        optimiser.step()
        step += 1
        decay = min(0.997, step / (step + 20))
        with torch.no_grad():
            for a, b in zip(average.state_dict().values(), network.state_dict().values()):
                if a.dtype.is_floating_point:
                    a.lerp_(b, 1 - decay)
                else:
                    a.copy_(b)
        running = loss.item() if running is None else 0.98 * running + 0.02 * loss.item()
        if step % 50 == 0:
            print(f"step {step}, {spent * minutes:.1f} min, loss {running:.3f}", flush=True)
        if step % 400 == 0:
            print("  validation:", validate(average), flush=True)
            torch.save(average.state_dict(), out + ".pt")
    if keep > 0:
        average = mean_of(begun, average, keep, loader, loss_of)
    average.eval()
    print("at the end:", validate(average), flush=True)
    torch.save(average.state_dict(), out + ".pt")
    return average


def mean_of(begun, learnt, share: float, loader, loss_of):
    """
    A network between two of one descent: what new pictures taught, with less of what they made it forget. The normalisations
    are set up anew from samples.
    """
    mean = copy.deepcopy(learnt)
    for m, a in zip(mean.parameters(), begun.parameters()):
        m.data.lerp_(a.data, share)
    for module in mean.modules():
        if isinstance(module, torch.nn.BatchNorm2d):
            module.reset_running_stats()
            module.momentum = None
    mean.train()
    with torch.no_grad():
        for _ in range(40):
            loss_of(mean, next(loader))
    return mean
