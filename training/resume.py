"""Going on from weights that are in use: a written graph back into a network that can learn."""

import onnx
import torch
from onnx import numpy_helper
from torch import nn

from network import LandmarkNetwork


def module_of(output: str) -> str:
    """The module that made an output of the graph: `/to24/to24.1/first/first.0/Conv_output_0` is to24.1.first.0."""
    names = []
    for part in output.strip("/").split("/")[:-1]:
        if names and part.startswith(names[-1] + "."):
            names[-1] = part
        else:
            names.append(part)
    return ".".join(names)


def resume(path: str, pictures: torch.Tensor) -> LandmarkNetwork:
    """
    The network of an ONNX file. Writing folds the normalisations into the convolutions before them; they are set up anew
    from what `pictures` (n, 3, INPUT, INPUT) make of each layer, so that the network answers as the file does and learns
    on as if it had never been written.
    """
    graph = onnx.load(path).graph
    values = {i.name: torch.from_numpy(numpy_helper.to_array(i).copy()) for i in graph.initializer}
    network = LandmarkNetwork().eval()
    modules = dict(network.named_modules())
    norms = {}
    for node in graph.node:
        if node.op_type != "Conv":
            continue
        name = module_of(node.output[0]) if "/" in node.output[0] else node.output[0]
        convolution, weight, bias = modules[name], values[node.input[1]], values[node.input[2]]
        convolution.weight.data.copy_(weight)
        if convolution.bias is not None:
            convolution.bias.data.copy_(bias)
            continue
        before, _, last = name.rpartition(".")
        norm = modules[f"{before}.{int(last) + 1}"]
        assert isinstance(norm, nn.BatchNorm2d)
        norm.bias.data.copy_(bias)
        norm.running_var.fill_(1 - norm.eps)
        norms[norm] = []
    hooks = [norm.register_forward_hook(lambda module, given, _: norms[module].append(given[0])) for norm in norms]
    with torch.no_grad():
        network(pictures)
    for hook in hooks:
        hook.remove()
    for norm, (seen,) in norms.items():
        mean, var = seen.mean((0, 2, 3)), seen.var((0, 2, 3), unbiased=False)
        norm.running_mean.copy_(mean)
        norm.running_var.copy_(var)
        norm.weight.data.copy_((var + norm.eps).sqrt())
        norm.bias.data.add_(mean)
    return network
