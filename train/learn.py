"""Teaches the filter of noise from parts of made-up shots (`crops.ts`), and goes on from where it stopped.

    python3 train/learn.py CROPS STATE MINUTES WEIGHTS

CROPS is the folder of parts; new ones are taken in as they come. STATE is what training goes on from, written every few minutes; where there
is none it goes on from WEIGHTS, and where there are none it begins. WEIGHTS is written at the end: what the tracer reads, with a record of how it
came about (`.json`) and an example of what it makes of a part (`.example`), by which the tracer's own is checked. One thread: two are slower on
small parts.

The network sees both halves of the samples, what the other filter made of them, and what the first surface shows. It answers with weights
alone: of 5 x 5 pixels at three sizes, of the picture and of the picture without its colour, and with shares by which these and the other
filter's picture are put together. All are positive and sum to one, so nothing is invented and nothing goes below black (Bako et al. 2017,
Vogels et al. 2018 for kernels that are told; the rest is ours). Inputs and shapes are those of `src/tracer/learned.ts`.
"""
import json
import sys
import time
from pathlib import Path

import numpy as np
import torch
import torch.nn as nn
import torch.nn.functional as F

SIDE = 192
PLANES = 18
LEVELS = (2, 4, 8, 16, 32)
CHOSEN = (0.15, 0.25, 0.25, 0.2, 0.15)
CUT = 96
BATCH = 4
RATE = 1e-3
# Steps over which the rate falls to a half.
HALVED = 15_000
# Part of a sitting in which it settles.
SETTLING = 0.35
KEPT = 0.9995
FEATURES = 19
WIDE = (24, 48, 64)
KERNEL = 5
# What is added to a colour before light is divided by it.
LEAST_COLOUR = 0.02
CANDIDATES = 7
# Steps in which the network learns alone, before it is asked what share of the other filter's picture it takes: that picture is so near from the
# first step on that all else would be forgotten.
ALONE = 2_000
# How dearly it pays for being sure of that share.
SURENESS = 1e-3
WARM = 300
BRIGHTEST = 2.0 ** 12


def features(planes, samples):
    """What the network sees of planes (n, 18, h, w), exposed, made with so many samples (n)."""
    light = lambda x: torch.log2(x.clamp(0, BRIGHTEST) + 0.01) / 8
    mean = (planes[:, 0:3] + planes[:, 3:6]) / 2
    luma = (mean * torch.tensor([0.2126, 0.7152, 0.0722]).view(1, 3, 1, 1)).sum(1, keepdim=True)
    error = torch.log2(1 + 8 * (planes[:, 9:10] / (luma + 0.02)).clamp(0, 8)) / 4
    near = torch.log2(planes[:, 16:17] + 0.001) / 8
    count = torch.log2(samples.view(-1, 1, 1, 1)).expand_as(near) / 5
    return torch.cat([light(planes[:, 0:9]), error, planes[:, 10:16], near, planes[:, 17:18], count], 1)


class One(nn.Linear):
    """A convolution of single pixels; as one, it would be slow here."""

    def forward(self, x):
        return super().forward(x.permute(0, 2, 3, 1)).permute(0, 3, 1, 2)


class Net(nn.Module):
    def __init__(self):
        super().__init__()
        a, b, c = WIDE
        conv = lambda i, o: nn.Conv2d(i, o, 3, padding=1)
        one = One
        self.full1, self.full2 = conv(FEATURES, a), conv(a, a)
        self.half1, self.half2 = conv(a, b), conv(b, b)
        self.quarter1, self.quarter2, self.quarter3 = conv(b, c), conv(c, c), conv(c, c)
        self.toHalf, self.half3 = one(c, b), conv(b, b)
        self.toFull, self.full3 = one(b, a), conv(a, a)
        taps = KERNEL * KERNEL
        self.told4, self.told2, self.told1 = one(c, taps), one(b, taps), one(a, taps + CANDIDATES)

    def forward(self, x):
        relu, pool = F.relu, lambda t: F.avg_pool2d(t, 2)
        up = lambda t: F.interpolate(t, scale_factor=2, mode="nearest")
        full = relu(self.full2(relu(self.full1(x))))
        half = relu(self.half2(relu(self.half1(pool(full)))))
        quarter = relu(self.quarter3(relu(self.quarter2(relu(self.quarter1(pool(half)))))))
        half = relu(self.half3(half + up(self.toHalf(quarter))))
        full = relu(self.full3(full + up(self.toFull(half))))
        return self.told4(quarter), self.told2(half), self.told1(full)


def averaged(weights, picture):
    """Averages of a picture (n, c, h, w), edges repeated, by logarithms of weights (n, 25, h, w)."""
    n, c, h, w = picture.shape
    taps = F.unfold(F.pad(picture, (2, 2, 2, 2), mode="replicate"), KERNEL).view(n, c, KERNEL * KERNEL, h, w)
    return (taps * torch.softmax(weights, 1).unsqueeze(1)).sum(2)


def put_together(told, planes):
    """The picture from what the network tells; the same without the other filter's; and how sure it is of that one, as a logarithm."""
    told4, told2, told1 = told
    picture = (planes[:, 0:3] + planes[:, 3:6]) / 2
    colour = planes[:, 10:13] + LEAST_COLOUR
    # The picture and, in its last three planes, the picture without its colour.
    both = torch.cat([picture, picture / colour], 1)
    both2 = F.avg_pool2d(both, 2)
    both4 = F.avg_pool2d(both2, 2)
    up = lambda t, k: F.interpolate(t, scale_factor=k, mode="bilinear", align_corners=False)
    taps = KERNEL * KERNEL
    made = [averaged(told1[:, :taps], both), up(averaged(told2, both2), 2), up(averaged(told4, both4), 4)]
    shares = torch.softmax(told1[:, taps : taps + 6], 1)
    own = 0
    for k, m in enumerate(made):
        own = own + shares[:, 2 * k : 2 * k + 1] * m[:, 0:3] + shares[:, 2 * k + 1 : 2 * k + 2] * m[:, 3:6] * colour
    sure = told1[:, taps + 6 :] - torch.logsumexp(told1[:, taps : taps + 6], 1, keepdim=True)
    return own + torch.sigmoid(sure) * (planes[:, 6:9] - own), own, sure


def loss_of(made, asked, samples):
    """Squared errors over what is there, linear where they are large; and the same of the means of 8 x 8 pixels, so that light is kept.

    What few samples leave would be nearly all of it: pictures of many count more."""
    def relative(m, a, floor):
        there = m.detach().mean(1, keepdim=True)
        e = (m - a).abs() / (there ** 2 + floor * there.mean((2, 3), keepdim=True) ** 2 + 1e-4).sqrt()
        return torch.where(e < 2, e * e, 4 * e - 4).mean((1, 2, 3))

    each = relative(made, asked, 0.02) + relative(F.avg_pool2d(made, 8), F.avg_pool2d(asked, 8), 0.02)
    return (each * (samples / 8) ** 0.7).mean()


class Crops:
    """Parts, mapped from their files; looks for new ones now and then."""

    def __init__(self, folder):
        self.folder, self.known, self.looked = Path(folder), {}, 0.0

    def all(self):
        if time.time() - self.looked > 60:
            for file in sorted(self.folder.glob("*.crop")):
                if file not in self.known:
                    self.known[file] = np.fromfile(file, np.float16).reshape(2, -1, PLANES, SIDE, SIDE)
            self.looked = time.time()
        return list(self.known.values())


def batch(parts, chance):
    planes, asked, samples = [], [], []
    for _ in range(BATCH):
        part = parts[chance.integers(len(parts))]
        shares = np.array(CHOSEN[: part.shape[1]])
        level = chance.choice(len(shares), p=shares / shares.sum())
        y, x = chance.integers(SIDE - CUT + 1, size=2) // 4 * 4
        cut = part[:, :, :, y : y + CUT, x : x + CUT]
        seed = chance.integers(2)
        p = cut[seed, level].astype(np.float32)
        t = cut[1 - seed, -1, 0:6].astype(np.float32)
        t = (t[0:3] + t[3:6]) / 2
        # Seen another way round, of other colours and otherwise exposed, it is another picture.
        turned = chance.permutation(3)
        for k in (0, 3, 6, 10):
            p[k : k + 3] = p[k : k + 3][turned]
        t = t[turned]
        p[13:16] = p[13:16][chance.permutation(3)] * chance.choice([-1, 1], size=(3, 1, 1))
        p[16] *= 2.0 ** chance.uniform(-2, 2)
        light = 2.0 ** chance.uniform(-1.5, 1.5)
        p[0:10] *= light
        t *= light
        if chance.integers(2):
            p, t = p[:, :, ::-1], t[:, :, ::-1]
        if chance.integers(2):
            p, t = p[:, ::-1], t[:, ::-1]
        if chance.integers(2):
            p, t = p.transpose(0, 2, 1), t.transpose(0, 2, 1)
        planes.append(torch.from_numpy(p.copy()))
        asked.append(torch.from_numpy(t.copy()))
        samples.append(float(LEVELS[level]))
    return torch.stack(planes), torch.stack(asked), torch.tensor(samples)


EXAMPLE = (40, 44)


def write_weights(net, record, file):
    """Half floats, layer by layer: of each its weights (out, in, rows, columns), then what is added."""
    parts = [(name, p.detach().numpy()) for name, p in net.named_parameters()]
    file.write_bytes(b"".join(p.astype("<f2").tobytes() for _, p in parts))
    record = {**record, "weights": sum(p.size for _, p in parts), "shapes": {name: " x ".join(map(str, p.shape)) for name, p in parts}}
    file.with_suffix(".json").write_text(json.dumps(record, indent="\t") + "\n")


def largest(net, parts):
    """The largest value that goes into each layer, of parts as they are and two stops brighter and darker: the tracer's steps must hold it."""
    found = {}

    def note(name):
        return lambda _, seen: found.__setitem__(name, max(found.get(name, 0.0), seen[0].abs().max().item()))

    held = [m.register_forward_pre_hook(note(name)) for name, m in net.named_children()]
    with torch.no_grad():
        for part in parts:
            for level in range(0, part.shape[1], 2):
                for light in (0.25, 1, 4):
                    planes = part[0, level].astype(np.float32)
                    planes[0:10] *= light
                    net(features(torch.from_numpy(planes)[None], torch.tensor([float(LEVELS[level])])))
    for h in held:
        h.remove()
    return {name: round(v, 2) for name, v in found.items()}


def read_weights(net, file):
    values = torch.from_numpy(np.fromfile(file, "<f2").astype(np.float32))
    at = 0
    with torch.no_grad():
        for p in net.parameters():
            p.copy_(values[at : at + p.numel()].view(p.shape))
            at += p.numel()


def write_example(file, part):
    """Planes of a part of eight samples as half floats, then, as floats, what the weights of a file make of them."""
    h, w = EXAMPLE
    planes = part[0, 2, :, 64 : 64 + h, 64 : 64 + w]
    net = Net()
    read_weights(net, file)
    seen = torch.from_numpy(planes.astype(np.float32))[None]
    with torch.no_grad():
        made, _, _ = put_together(net(features(seen, torch.tensor([float(LEVELS[2])]))), seen)
    file.with_suffix(".example").write_bytes(planes.astype("<f2").tobytes() + made.numpy().astype("<f4").tobytes())


def main():
    crops, state, minutes, weights = Crops(sys.argv[1]), Path(sys.argv[2]), float(sys.argv[3]), Path(sys.argv[4])
    torch.set_num_threads(1)
    net, kept = Net(), Net()
    optimiser = torch.optim.Adam(net.parameters(), lr=RATE)
    record = {"steps": 0, "batch": BATCH, "sittings": []}
    if weights.with_suffix(".json").exists():
        record.update({k: v for k, v in json.loads(weights.with_suffix(".json").read_text()).items() if k in record})
    step = record["steps"]
    if state.exists():
        was = torch.load(state)
        net.load_state_dict(was["net"])
        kept.load_state_dict(was["kept"])
        optimiser.load_state_dict(was["optimiser"])
        step = was["step"]
    else:
        if weights.exists():
            read_weights(net, weights)
        kept.load_state_dict(net.state_dict())
    first = step
    net.to(memory_format=torch.channels_last)
    chance = np.random.default_rng(step)
    end, told, wrote, total = time.time() + 60 * minutes, time.time(), time.time(), []
    joined = []

    def save():
        beside = state.with_suffix(".part")
        torch.save({"net": net.state_dict(), "kept": kept.state_dict(), "optimiser": optimiser.state_dict(), "step": step}, beside)
        beside.rename(state)

    while time.time() < end:
        planes, asked, samples = batch(crops.all(), chance)
        with torch.no_grad():
            seen = features(planes, samples).to(memory_format=torch.channels_last)
        made, own, sure = put_together(net(seen), planes)
        loss = loss_of(own, asked, samples)
        total.append(loss.item())
        if step >= ALONE:
            both = loss_of(made, asked, samples)
            joined.append(both.item())
            loss = loss + both + SURENESS * sure.square().mean()
        if not torch.isfinite(loss):
            continue
        for group in optimiser.param_groups:
            # It begins softly, for what the optimiser knew is not always kept, and ends softly: the last part of a sitting goes down to little.
            left = (end - time.time()) / (60 * minutes * SETTLING)
            group["lr"] = RATE * min(1, (step - first + 1) / WARM, 0.03 + left) * 0.5 ** (step / HALVED)
        optimiser.zero_grad()
        loss.backward()
        nn.utils.clip_grad_norm_(net.parameters(), 1.0)
        optimiser.step()
        step += 1
        # The mean over the last steps errs less than any one of them.
        share = min(KEPT, step / (step + 100))
        with torch.no_grad():
            for k, p in zip(kept.parameters(), net.parameters()):
                k.mul_(share).add_(p, alpha=1 - share)
        if time.time() - told > 60:
            mean = lambda of: f"{np.mean(of):.4f} (median {np.median(of):.4f})" if of else "-"
            print(f"step {step}, {len(crops.known)} parts: alone {mean(total)}, with the other {mean(joined)}", flush=True)
            told, total, joined = time.time(), [], []
        if time.time() - wrote > 300:
            save()
            wrote = time.time()
    save()
    record["sittings"].append({"parts": len(crops.known), "steps": step - first})
    record["largest"] = largest(kept, crops.all())
    write_weights(kept, {**record, "steps": step}, weights)
    write_example(weights, crops.all()[0])


if __name__ == "__main__":
    main()
