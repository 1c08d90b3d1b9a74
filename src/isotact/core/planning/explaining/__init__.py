"""Why a promise is not kept, in the words of the trade, and what would have to be given up."""
