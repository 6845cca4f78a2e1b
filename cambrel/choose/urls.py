from django.urls import path

from cambrel.choose.views import choosing, kept_decisions, own_pictures

app_name = "choose"
urlpatterns = [
    path("choose/", choosing.choose, name="choose"),
    path("choose/helping/", choosing.helping, name="helping"),
    path("choose/picture/", own_pictures.add, name="picture"),
    path("choose/keep/", kept_decisions.keep, name="keep"),
    path("choose/kept/<int:pk>/", kept_decisions.kept, name="kept"),
    path("choose/kept/<int:pk>/forget/", kept_decisions.forget, name="forget"),
]
