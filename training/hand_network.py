"""The hand network: a small encoder told how the bow lies, and an additive U-shaped decoder; 128 x 128 x 3 and 6 numbers in, 32 x 32 maps of places and of depths out."""

import torch
from torch import nn
from torch.nn import functional as F

from hand_crops import POINTS
from network import Residual, block


class HandNetwork(nn.Module):
    WIDTHS = (20, 36, 64, 88, 108)
    FINE = 48

    def __init__(self):
        super().__init__()
        a, b, c, d, e = self.WIDTHS
        self.to64 = block(3, a, 2)
        self.to32 = block(a, b, 2)
        self.to16 = nn.Sequential(block(b, c, 2), Residual(c))
        self.to8 = nn.Sequential(block(c, d, 2), Residual(d))
        self.to4 = nn.Sequential(block(d, e, 2), Residual(e))
        self.told = nn.Sequential(nn.Linear(6, 64), nn.ReLU(inplace=True), nn.Linear(64, c + d + e))
        self.narrow4 = nn.Conv2d(e, d, 1)
        self.join8 = block(d, d)
        self.narrow8 = nn.Conv2d(d, c, 1)
        self.join16 = nn.Sequential(block(c, c), Residual(c))
        self.narrow16 = nn.Conv2d(c, self.FINE, 1)
        self.widen32 = nn.Conv2d(b, self.FINE, 1)
        self.join32 = block(self.FINE, self.FINE)
        self.maps = nn.Conv2d(self.FINE, 2 * POINTS, 1)

    def forward(self, x, bow):
        _, _, c, d, e = self.WIDTHS
        told = self.told(bow)[..., None, None]
        s32 = self.to32(self.to64(x))
        s16 = self.to16(s32) + told[:, :c]
        s8 = self.to8(s16) + told[:, c : c + d]
        s4 = self.to4(s8) + told[:, c + d :]
        up = lambda t: F.interpolate(t, scale_factor=2, mode="nearest")
        s8 = self.join8(s8 + up(self.narrow4(s4)))
        s16 = self.join16(s16 + up(self.narrow8(s8)))
        s32 = self.join32(self.widen32(s32) + up(self.narrow16(s16)))
        return self.maps(s32)
