from django.urls import path

from cambrel.learn.views import arguing, care, mental, rounds

app_name = "learn"
urlpatterns = [
    path("learn/", rounds.home, name="home"),
    path("learn/round/", rounds.round_, name="round"),
    path("learn/forget/", rounds.forget, name="forget"),
    path("learn/argued/<slug:key>/", arguing.dispute, name="dispute"),
    path("learn/head/", mental.mental, name="mental"),
    path("learn/care/", care.care, name="care"),
]
