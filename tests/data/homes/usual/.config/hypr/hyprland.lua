hl.config({
    general = {
        gaps_in = 5,
    },
})
