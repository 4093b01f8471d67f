"""Going on from weights that are in use: a written graph back into a network that can learn."""

import onnx
import torch
from onnx import numpy_helper
from torch import nn


def module_of(output: str) -> str:
    """The module that made an output of the graph: `/to24/to24.1/first/first.0/Conv_output_0` is to24.1.first.0."""
    names = []
    for part in output.strip("/").split("/")[:-1]:
        if names and part.startswith(names[-1] + "."):
            names[-1] = part
        else:
            names.append(part)
    return ".".join(names)


def take_weights(network: nn.Module, path: str, loader, inputs: int) -> None:
    """
    Gives a network the weights of a .pt file, or of an ONNX file as in use. Writing ONNX folds the normalisations into the
    convolutions before them; they are set up anew from what samples of the loader, whose first tensors are the network's
    `inputs`, make of each layer, so that the network answers as the file does and learns on as if it had never been written.
    """
    if not path.endswith(".onnx"):
        network.load_state_dict(torch.load(path))
        return
    graph = onnx.load(path).graph
    values = {i.name: torch.from_numpy(numpy_helper.to_array(i).copy()) for i in graph.initializer}
    network.eval()
    modules = dict(network.named_modules())
    norms = {}
    for node in graph.node:
        if node.op_type not in ("Conv", "Gemm"):
            continue
        name = module_of(node.output[0]) if "/" in node.output[0] else node.output[0]
        layer, weight, bias = modules[name], values[node.input[1]], values[node.input[2]]
        layer.weight.data.copy_(weight)
        if layer.bias is not None:
            layer.bias.data.copy_(bias)
            continue
        before, _, last = name.rpartition(".")
        norm = modules[f"{before}.{int(last) + 1}"]
        assert isinstance(norm, nn.BatchNorm2d)
        norm.bias.data.copy_(bias)
        norm.running_var.fill_(1 - norm.eps)
        norms[norm] = []
    hooks = [norm.register_forward_hook(lambda module, given, _: norms[module].append(given[0])) for norm in norms]
    looked = [next(loader) for _ in range(8)]
    with torch.no_grad():
        network(*(torch.cat([batch[i] for batch in looked]) for i in range(inputs)))
    for hook in hooks:
        hook.remove()
    for norm, (seen,) in norms.items():
        mean, var = seen.mean((0, 2, 3)), seen.var((0, 2, 3), unbiased=False)
        norm.running_mean.copy_(mean)
        norm.running_var.copy_(var)
        norm.weight.data.copy_((var + norm.eps).sqrt())
        norm.bias.data.add_(mean)
