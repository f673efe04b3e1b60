"""The documents: immutable values, validated when they are made. No behaviour beyond that."""
