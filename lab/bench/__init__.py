"""Speed, memory and accuracy of the core on simulated sounds of known truth; run by ./reed bench."""
