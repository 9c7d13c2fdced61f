"""Many packs at once, on one machine or many: work as bytes in and bytes out, on Dask's engine."""
