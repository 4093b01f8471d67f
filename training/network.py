"""The landmark network: a small encoder and an additive U-shaped decoder, 192 x 192 x 3 in, 48 x 48 x 17 out."""

import torch
from torch import nn
from torch.nn import functional as F

from points import POINTS


def block(a: int, b: int, stride: int = 1) -> nn.Sequential:
    return nn.Sequential(nn.Conv2d(a, b, 3, stride, 1, bias=False), nn.BatchNorm2d(b), nn.ReLU(inplace=True))


class Residual(nn.Module):
    def __init__(self, width: int):
        super().__init__()
        self.first = block(width, width)
        self.second = nn.Sequential(nn.Conv2d(width, width, 3, 1, 1, bias=False), nn.BatchNorm2d(width))

    def forward(self, x):
        return F.relu(x + self.second(self.first(x)))


class LandmarkNetwork(nn.Module):
    WIDTHS = (16, 32, 64, 96, 112)

    def __init__(self):
        super().__init__()
        a, b, c, d, e = self.WIDTHS
        self.to96 = block(3, a, 2)
        self.to48 = block(a, b, 2)
        self.to24 = nn.Sequential(block(b, c, 2), Residual(c))
        self.to12 = nn.Sequential(block(c, d, 2), Residual(d))
        self.to6 = nn.Sequential(block(d, e, 2), Residual(e))
        self.narrow6 = nn.Conv2d(e, d, 1)
        self.join12 = block(d, d)
        self.narrow12 = nn.Conv2d(d, c, 1)
        self.join24 = block(c, c)
        self.narrow24 = nn.Conv2d(c, 48, 1)
        self.widen48 = nn.Conv2d(b, 48, 1)
        self.join48 = block(48, 48)
        self.maps = nn.Conv2d(48, len(POINTS), 1)

    def forward(self, x):
        s48 = self.to48(self.to96(x))
        s24 = self.to24(s48)
        s12 = self.to12(s24)
        s6 = self.to6(s12)
        up = lambda t: F.interpolate(t, scale_factor=2, mode="nearest")
        s12 = self.join12(s12 + up(self.narrow6(s6)))
        s24 = self.join24(s24 + up(self.narrow12(s12)))
        s48 = self.join48(self.widen48(s48) + up(self.narrow24(s24)))
        return self.maps(s48)
