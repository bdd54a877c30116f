"""The Practise stage: walk it, drill it, recall it, feel the weight, and check the turns."""
